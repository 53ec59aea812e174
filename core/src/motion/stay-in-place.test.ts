import fc from 'fast-check';
import { callOf, KitError, putArray, type Clip, type Key, type KeyTrack, type SampleTrack } from '../document';
import { chainKit, run } from '../tests/helpers';
import { readArray } from '../document';
import { sampleKeys } from './sampler';
import { stayInPlace, tracksInPlace, wayOf } from './stay-in-place';

/** A root that is sized and turned, hips below it, a hand below those; what moves is given by track. */
function walker(tracks: Clip['tracks']) {
  const made = chainKit([
    { id: 'root', scale: [2, 2, 2] },
    { id: 'hips', translation: [0, 1, 0] },
    { id: 'hand', translation: [0.3, 0, 0] },
  ]);
  made.kit.clips.clip = { id: 'clip', name: 'go', order: 0, lengthSeconds: 2, rate: 30, loop: 'loop', tracks };
  return made;
}

const keys = (axis: number, list: Key[], part = 'hips'): KeyTrack => ({
  kind: 'keys',
  id: `${part}${axis}`,
  part,
  property: 'offset',
  axis,
  keys: list,
});

/** Keys at rising times, straight or in curves, some with tangents of their own. */
const someKeys = fc
  .array(
    fc.record({
      gap: fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      value: fc.double({ min: -3, max: 3, noNaN: true }),
      easing: fc.constantFrom('straight' as const, 'curve' as const),
      slope: fc.option(fc.double({ min: -5, max: 5, noNaN: true }), { nil: undefined }),
    }),
    { minLength: 2, maxLength: 6 },
  )
  .map((list) => {
    let time = 0;
    return list.map(({ gap, value, easing, slope }): Key => {
      const key: Key = { time, value, easing, ...(slope !== undefined && { slopeIn: slope, slopeOut: slope }) };
      time += gap;
      return key;
    });
  });

test('what goes straight or in curves loses an even way and nothing else, and ends where it begins', () => {
  fc.assert(
    fc.property(someKeys, (list) => {
      const before = keys(2, list);
      const { kit, blobs } = walker([before]);
      const [after] = run(kit, blobs, callOf(stayInPlace, { clip: 'clip', part: 'hips' })).clips.clip.tracks as KeyTrack[];
      const last = list[list.length - 1].time;
      const rate = (list[list.length - 1].value - list[0].value) / last;
      for (let i = 0; i <= 40; i++) {
        const time = (last * i) / 40;
        expect(sampleKeys(after, time)!).toBeCloseTo(sampleKeys(before, time)! - rate * time, 9);
      }
      expect(sampleKeys(after, last)!).toBeCloseTo(list[0].value, 9);
    }),
    { endOnFailure: true },
  );
});

test.each(['straight', 'curve'] as const)('a dense track of %s samples ends where it begins, with its tangents', (interpolation) => {
  const { kit, blobs } = walker([]);
  const rows = [
    [0, 0, 0],
    [0.2, 1, 1.5],
    [0, 0.5, 4],
  ];
  const numbers = interpolation === 'curve' ? rows.flatMap((row) => [9, 9, 9, ...row, 9, 9, 9]) : rows.flat();
  const track: SampleTrack = {
    kind: 'samples',
    id: 'dense',
    part: 'hips',
    property: 'offset',
    interpolation,
    times: putArray(blobs, Float32Array.of(0, 0.5, 2), 1),
    values: putArray(blobs, Float32Array.from(numbers), 3),
  };
  kit.clips.clip.tracks = [track];
  // The root doubles what its children go.
  expect(wayOf(kit, kit.clips.clip, blobs)).toEqual({ part: 'hips', metres: 2 * Math.hypot(0.5, 4) });
  const [after] = tracksInPlace(kit.clips.clip, 'hips', blobs) as SampleTrack[];
  const values = [...readArray<Float32Array>(blobs, after.values)];
  const [stride, lead] = interpolation === 'curve' ? [9, 3] : [3, 0];
  expect([0, 1, 2].map((i) => values.slice(i * stride + lead, i * stride + lead + 3))).toEqual([
    [0, 0, 0],
    [Math.fround(0.2), 0.875, 0.5],
    [0, 0, 0],
  ]);
  if (interpolation === 'curve') expect(values.slice(0, 3)).toEqual([9, 8.75, 7]);
  expect(wayOf(kit, { ...kit.clips.clip, tracks: [after] }, blobs)).toBeNull();
});

test('the part that goes furthest is the one that is told, and what a formula carries is told of nobody', () => {
  const go = (value: number): Key[] => [
    { time: 0, value: 0, easing: 'straight' },
    { time: 2, value, easing: 'straight' },
  ];
  const { kit, blobs } = walker([keys(2, go(1)), keys(0, go(1.2), 'root')]);
  expect(wayOf(kit, kit.clips.clip, blobs)?.part).toBe('hips');
  const worked = { kind: 'formula' as const, id: 'f', part: 'hips', property: 'offset' as const, axis: 1 as const, source: 't', gain: 1 };
  kit.clips.clip.tracks = [worked];
  expect(wayOf(kit, kit.clips.clip, blobs)).toBeNull();
  expect(() => tracksInPlace(kit.clips.clip, 'hips', blobs)).toThrow(KitError);
});
