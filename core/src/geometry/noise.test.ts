import { noiseTarget } from './noise';

test('a hair off a step is that step; exact numbers, float rounding and other numbers are left alone', () => {
  expect(noiseTarget(0.5999998, 0.001)).toBe(0.6);
  expect(noiseTarget(-2e-6, 0.001)).toBe(0);
  expect(noiseTarget(0.6, 0.001)).toBeNull();
  expect(noiseTarget(Math.fround(0.6), 0.001)).toBeNull();
  expect(noiseTarget(0.6003, 0.001)).toBeNull();
});
