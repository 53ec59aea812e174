import { snapStep, snapTime } from './snap-time';

test('times go onto frames of the clip, onto steps of the target, or stay', () => {
  const clip = { rate: 30 };
  expect(snapTime(0.51, clip, 'frame')).toBeCloseTo(0.5, 9);
  expect(snapTime(0.51, clip, 20)).toBeCloseTo(0.5, 9);
  expect(snapTime(0.53, clip, 20)).toBeCloseTo(0.55, 9);
  expect(snapTime(0.5123456, clip, null)).toBe(0.5123);
  expect([snapStep(clip, 'frame'), snapStep(clip, 20), snapStep(clip, null)]).toEqual([1 / 30, 1 / 20, 1 / 30]);
});
