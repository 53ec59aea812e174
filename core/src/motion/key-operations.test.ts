import { KitError, callOf, type KeyTrack, type Kit } from '../document';
import { chainKit, run, withMotion } from '../tests/helpers';
import { runCall } from '../operations';
import { keyShift, moveKeys, OutsideClipError, removeKeys, setEasing, setKeys, setSlopes } from './key-operations';

const track = (kit: Kit) => kit.clips.clip.tracks[0] as KeyTrack;
const made = () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  return { kit: withMotion(kit, blobs, 'a', 'turn', 0, [0, 10, 20]), blobs };
};

test('keys stay in order, and one at the same time is replaced', () => {
  const { kit, blobs } = made();
  const value = { part: 'a', property: 'turn', axis: 0, value: 99 } as const;
  const next = run(
    kit,
    blobs,
    callOf(setKeys, { clip: 'clip', time: 1, values: [value] }),
    callOf(setKeys, { clip: 'clip', time: 0.5, values: [{ ...value, value: 5 }] }),
  );
  expect(track(next).keys.map((key) => [key.time, key.value])).toEqual([
    [0, 0],
    [0.5, 5],
    [1, 99],
    [2, 20],
  ]);
});

test('a key past the end of the clip is refused with the clip’s length', () => {
  const { kit, blobs } = made();
  expect(() =>
    run(kit, blobs, callOf(setKeys, { clip: 'clip', time: 2.5, values: [{ part: 'a', property: 'turn', axis: 0, value: 1 }] })),
  ).toThrow(OutsideClipError);
});

test('moved keys stop together at the ends of the clip and keep their values', () => {
  const { kit, blobs } = made();
  const keys = [
    { track: track(kit).id, time: 1 },
    { track: track(kit).id, time: 0 },
  ];
  expect(track(run(kit, blobs, callOf(moveKeys, { clip: 'clip', keys, bySeconds: 5 }))).keys.map((key) => [key.time, key.value])).toEqual([
    [1, 0],
    [2, 10],
  ]);
  expect(track(run(kit, blobs, callOf(moveKeys, { clip: 'clip', keys, bySeconds: 0.25, copy: true }))).keys.map((key) => key.time)).toEqual(
    [0, 0.25, 1, 1.25, 2],
  );
});

test('moved there and back every key is where it was', () => {
  const { kit, blobs } = made();
  const at = track(kit).id;
  const there = run(kit, blobs, callOf(moveKeys, { clip: 'clip', keys: [{ track: at, time: 1 }], bySeconds: 0.4 }));
  const back = run(there, blobs, callOf(moveKeys, { clip: 'clip', keys: [{ track: at, time: 1.4 }], bySeconds: -0.4 }));
  expect(back).toEqual(kit);
});

test('a track with no key left goes away; an easing changes the chosen keys alone', () => {
  const { kit, blobs } = made();
  const keys = track(kit).keys.map(({ time }) => ({ track: track(kit).id, time }));
  expect(run(kit, blobs, callOf(removeKeys, { clip: 'clip', keys })).clips.clip.tracks).toEqual([]);
  expect(
    track(run(kit, blobs, callOf(setEasing, { clip: 'clip', keys: [keys[1]], easing: 'hold' }))).keys.map((key) => key.easing),
  ).toEqual(['curve', 'hold', 'curve']);
});

test('arguments that do not fit are refused by name', () => {
  const { kit, blobs } = made();
  expect(() => run(kit, blobs, { operation: 'motion.set-keys', args: { clip: 'clip', time: 'soon', values: [] } })).toThrow(KitError);
});

test('a key that is given another value keeps its tangents, and a new one beside it has none', () => {
  const { kit, blobs } = made();
  const sloped = run(kit, blobs, callOf(setSlopes, { clip: 'clip', keys: [{ track: track(kit).id, time: 1 }], in: 3, out: -2 }));
  const value = { part: 'a', property: 'turn', axis: 0, value: 12 } as const;
  const next = run(
    sloped,
    blobs,
    callOf(setKeys, { clip: 'clip', time: 1, values: [value] }),
    callOf(setKeys, { clip: 'clip', time: 1.5, values: [value] }),
  );
  expect(track(next).keys.filter(({ time }) => time >= 1 && time < 2)).toEqual([
    { time: 1, value: 12, easing: 'curve', slopeIn: 3, slopeOut: -2 },
    { time: 1.5, value: 12, easing: 'curve' },
  ]);
});

test('keys that are moved say where they stand: stopped at the clip’s ends together, at the time of what they replace', () => {
  const { kit, blobs } = made();
  const { id } = track(kit);
  const moved = (times: number[], bySeconds: number) =>
    runCall(kit, callOf(moveKeys, { clip: 'clip', keys: times.map((time) => ({ track: id, time })), bySeconds }), blobs);
  expect(moved([1], 5).chosen.keys).toEqual([{ track: id, time: 2 }]);
  expect(moved([1, 2], 5).patches).toEqual([]);
  expect(moved([0, 1], 0.25).chosen.keys!.map(({ time }) => time)).toEqual([0.25, 1.25]);
  expect(moved([0], 1 + 1e-7).chosen.keys).toEqual([{ track: id, time: 1 }]);
  expect(keyShift(kit.clips.clip, [{ track: id, time: 1 }], -3)).toBe(-1);
});
