import { callOf, MemoryBlobs, emptyKit, newPart, type Kit } from '@itchkit/core/document';
import { addClip, addRestClip, setKeys } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';
import { keysOf, keysWithin, toolKeys } from './chosen-keys';
import { keyTimes, rowsOf } from './rows';

function made(): Kit {
  let kit: Kit = { ...emptyKit('kit'), parts: { a: newPart({ id: 'a', name: 'a' }), b: newPart({ id: 'b', name: 'b', parent: 'a' }) } };
  const run = (call: Parameters<typeof runCall>[1]) => (kit = runCall(kit, call, new MemoryBlobs()).kit);
  run(callOf(addClip, { id: 'clip', name: 'clip', lengthSeconds: 2, rate: 30, loop: 'loop' }));
  for (const [time, value] of [
    [0, 0],
    [1, 20],
  ])
    run(callOf(setKeys, { clip: 'clip', time, values: [{ part: 'a', property: 'turn', axis: 1, value }] }));
  run(callOf(setKeys, { clip: 'clip', time: 0.5, values: [{ part: 'b', property: 'offset', axis: 0, value: 1 }] }));
  run(callOf(addRestClip, { name: 'rest', rate: 30 }));
  return kit;
}
const all = { rows: 'all', property: 'all', folded: [], selection: [] } as const;
const names = (rows: ReturnType<typeof rowsOf>) => rows.map((row) => (row.kind === 'part' ? row.part.name : row.track.property));

test('rows are parts with their tracks below, folded or filtered by what moves, what is chosen and what kind it is', () => {
  const kit = made();
  const { clip } = kit.clips;
  expect(names(rowsOf(kit, clip, all))).toEqual(['a', 'turn', 'b', 'offset']);
  expect(names(rowsOf(kit, clip, { ...all, folded: ['a'] }))).toEqual(['a', 'b', 'offset']);
  expect(names(rowsOf(kit, clip, { ...all, rows: 'moving' }))).toEqual(['a', 'turn']);
  expect(names(rowsOf(kit, clip, { ...all, rows: 'chosen', selection: ['b'] }))).toEqual(['b', 'offset']);
  expect(names(rowsOf(kit, clip, { ...all, rows: 'below', selection: ['a'] }))).toEqual(['a', 'turn', 'b', 'offset']);
  expect(names(rowsOf(kit, clip, { ...all, property: 'turn' }))).toEqual(['a', 'turn']);
  expect(keyTimes(clip.tracks)).toEqual([0, 0.5, 1]);
});

test('tools work on the chosen keys, else on those of the chosen parts, else on all of them', () => {
  const { clip } = made().clips;
  const [turn, offset] = clip.tracks.map(({ id }) => id);
  expect(toolKeys(clip, [{ track: turn, time: 1 }], ['b'])).toEqual([{ track: turn, time: 1 }]);
  expect(toolKeys(clip, [{ track: turn, time: 0.7 }], ['b'])).toEqual([{ track: offset, time: 0.5 }]);
  expect(toolKeys(clip, [], [])).toHaveLength(3);
  expect(keysOf(clip, [{ track: offset, time: 0.5 }])[0].key.value).toBe(1);
  expect(keysWithin(clip.tracks as never, 0.4, 1)).toHaveLength(2);
});
