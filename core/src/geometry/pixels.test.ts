import { resizePixels } from './pixels';

test('shrinking by a whole factor takes the mean of each block', () => {
  const half = resizePixels({ width: 4, height: 2, channels: 1, data: Uint8Array.from([0, 10, 20, 30, 40, 50, 60, 70]) }, 2, 1);
  expect([...half.data]).toEqual([25, 45]);
});

test('an even colour stays what it is at any size, and the mean is kept', () => {
  const data = new Uint8Array(200 * 50 * 3).map((_, i) => [12, 200, 77][i % 3]);
  const other = resizePixels({ width: 200, height: 50, channels: 3, data }, 256, 32);
  expect(other.data.length).toBe(256 * 32 * 3);
  expect(other.data.every((value, i) => Math.abs(value - [12, 200, 77][i % 3]) <= 1)).toBe(true);
});
