import { tilesUnder } from './size-marks';

const under = (x: [number, number], z: [number, number], tile = 2) => tilesUnder({ min: [x[0], 0, z[0]], max: [x[1], 1, z[1]] }, tile);

test('three by two tiles about the origin are three by two, and a hair more is one more', () => {
  expect(under([-3, 3], [-2, 2])).toEqual({ x: [-1.5, 1.5], z: [-1, 1] });
  expect(under([-3, 3.01], [-2, 1.3])).toEqual({ x: [-2, 2], z: [-1, 1] });
  expect(under([0.1, 0.2], [-0.2, 0.2])).toEqual({ x: [-0.5, 0.5], z: [-0.5, 0.5] });
  expect(under([4, 6], [10, 14])).toEqual({ x: [2, 3], z: [5, 7] });
});
