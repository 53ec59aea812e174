import { easeBounceOut } from 'd3-ease';
import fc from 'fast-check';
import type { Easing, KeyTrack } from '../document';
import { chainKit, withMotion } from '../tests/helpers';
import { flattenParts, newPose, resetPose } from '../geometry';
import { clipTime } from './clip-time';
import { compileClip, sampleClip, sampleKeys } from './sampler';

const track = (values: number[], easing: Easing, times = values.map((_, i) => i)): KeyTrack => ({
  kind: 'keys',
  id: 't',
  part: 'a',
  property: 'turn',
  axis: 0,
  keys: values.map((value, i) => ({ time: times[i], value, easing })),
});

test('each easing by its closed form', () => {
  expect(sampleKeys(track([2, 6], 'hold'), 0.999)).toBe(2);
  expect(sampleKeys(track([2, 6], 'straight'), 0.25)).toBeCloseTo(3, 12);
  expect(sampleKeys(track([2, 6], 'curve'), 0.5)).toBeCloseTo(4, 12);
  for (const u of [0.1, 0.37, 0.5, 0.8, 0.95]) expect(sampleKeys(track([2, 6], 'bounce'), u)).toBeCloseTo(2 + 4 * easeBounceOut(u), 12);
});

test('before the first key and after the last the end values stand', () => {
  expect(sampleKeys(track([5, 7], 'straight', [1, 2]), 0)).toBe(5);
  expect(sampleKeys(track([5, 7], 'straight', [1, 2]), 9)).toBe(7);
});

test('a curve never leaves the range of the two keys about it', () => {
  const value = fc.double({ min: -100, max: 100, noNaN: true });
  const gaps = fc.array(fc.double({ min: 0.01, max: 3, noNaN: true }), { minLength: 2, maxLength: 8 });
  fc.assert(
    fc.property(gaps, fc.infiniteStream(value), fc.double({ min: 0, max: 1, noNaN: true }), (steps, values, u) => {
      const times = steps.reduce((all, step) => [...all, all.at(-1)! + step], [0]);
      const numbers = times.map(() => values.next().value as number);
      const curve = track(numbers, 'curve', times);
      for (let i = 0; i + 1 < times.length; i++) {
        const at = sampleKeys(curve, times[i] + u * (times[i + 1] - times[i]))!;
        expect(at).toBeGreaterThanOrEqual(Math.min(numbers[i], numbers[i + 1]) - 1e-9);
        expect(at).toBeLessThanOrEqual(Math.max(numbers[i], numbers[i + 1]) + 1e-9);
      }
    }),
  );
});

test('sampled in order, backwards and at random the values are the same', () => {
  const { kit: plain, blobs } = chainKit([{ id: 'a' }]);
  const kit = withMotion(plain, blobs, 'a', 'turn', 1, [0, 40, -20, 90, 10, 300]);
  const flat = flattenParts(kit);
  const compiled = compileClip(kit.clips.clip, flat, blobs);
  const pose = newPose(flat);
  const at = (time: number) => {
    resetPose(flat, pose);
    sampleClip(compiled, time, pose);
    return pose.turn[1];
  };
  const times = Array.from({ length: 60 }, (_, i) => i / 30);
  const forward = times.map(at);
  expect(times.toReversed().map(at).toReversed()).toEqual(forward);
  const shuffled = times.map((_, i) => (i * 23) % times.length);
  expect(shuffled.map((i) => at(times[i]))).toEqual(shuffled.map((i) => forward[i]));
});

test('loop modes', () => {
  expect(clipTime('once', 2, 2.5)).toBeNull();
  expect(clipTime('once', 2, 2)).toBe(2);
  expect(clipTime('hold', 2, 7)).toBe(2);
  expect(clipTime('loop', 2, 5)).toBe(1);
  expect(clipTime('ping-pong', 2, 3)).toBe(1);
  expect(clipTime('ping-pong', 2, 4.5)).toBe(0.5);
});
