import fc from 'fast-check';
import { TURN_ORDERS, type Quat, type Vec3 } from '../document';
import {
  angleBetweenQuats,
  composeMatrix,
  decomposeMatrix,
  mat3FromQuat,
  multiplyMat3,
  multiplyQuats,
  normalizeQuat,
  pointBefore,
  quatFromTurn,
  transformPoint,
  turnFromQuat,
  turnNearest,
} from './linear';

const angle = fc.double({ min: -720, max: 720, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const order = fc.constantFrom(...TURN_ORDERS);

test('a turn read back from its rotation makes the same rotation, in every order', () => {
  fc.assert(
    fc.property(turn, order, (degrees, o) => {
      const q = quatFromTurn(degrees, o);
      expect(angleBetweenQuats(quatFromTurn(turnFromQuat(q, o), o), q)).toBeLessThan(1e-4);
    }),
  );
});

test('a turn at the lock is read back too', () => {
  for (const o of TURN_ORDERS) {
    const degrees: Vec3 = [30, 30, 30];
    degrees['xyz'.indexOf(o[1])] = 90;
    const q = quatFromTurn(degrees, o);
    expect(angleBetweenQuats(quatFromTurn(turnFromQuat(q, o), o), q)).toBeLessThan(1e-4);
  }
});

test('xyz means Rx · Ry · Rz', () => {
  const product = multiplyMat3(
    multiplyMat3(mat3FromQuat(quatFromTurn([20, 0, 0], 'xyz')), mat3FromQuat(quatFromTurn([0, 30, 0], 'xyz'))),
    mat3FromQuat(quatFromTurn([0, 0, 40], 'xyz')),
  );
  mat3FromQuat(quatFromTurn([20, 30, 40], 'xyz')).forEach((value, i) => expect(value).toBeCloseTo(product[i], 12));
});

test('the nearest turn keeps whole rounds', () => {
  expect(turnNearest(quatFromTurn([0, 541, 0], 'xyz'), 'xyz', [0, 540, 0])[1]).toBeCloseTo(541, 6);
  expect(turnNearest(quatFromTurn([0, 120, 0], 'xyz'), 'xyz', [0, 110, 0])[1]).toBeCloseTo(120, 6);
});

test('a placement without shear is split into the parts that made it', () => {
  const number = fc.double({ min: -5, max: 5, noNaN: true });
  const size = fc.double({ min: 0.1, max: 4, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(number, number, number), turn, fc.tuple(size, size, size), (t, degrees, s) => {
      const rotation = normalizeQuat(quatFromTurn(degrees, 'xyz'));
      const parts = decomposeMatrix(composeMatrix(t as Vec3, rotation, s as Vec3));
      expect(parts.shear).toBeLessThan(1e-9);
      parts.scale.forEach((value, axis) => expect(value).toBeCloseTo(s[axis], 9));
      expect(angleBetweenQuats(parts.rotation, rotation as Quat)).toBeLessThan(1e-4);
    }),
  );
});

test('an angle between rotations is exact for the smallest ones, and for quaternions that floats made not quite of length 1', () => {
  fc.assert(
    fc.property(turn, turn, fc.double({ min: -6, max: 2.25, noNaN: true }), (degrees, way, power) => {
      const wanted = Math.min(179.9, 10 ** power);
      const half = (wanted * Math.PI) / 360;
      const axis = mat3FromQuat(quatFromTurn(way, 'xyz')).slice(0, 3);
      const by = [...axis.map((value) => value * Math.sin(half)), Math.cos(half)] as Quat;
      const from = quatFromTurn(degrees, 'xyz');
      expect(Math.abs(angleBetweenQuats(from, multiplyQuats(from, by)) - wanted)).toBeLessThan(1e-9 * Math.max(1, wanted));
      const float = [...Float32Array.from(from)] as Quat;
      expect(angleBetweenQuats(float, float)).toBeLessThan(1e-12);
      expect(angleBetweenQuats(float, float.map((value) => -1.0001 * value) as Quat)).toBeLessThan(1e-9);
    }),
  );
});

test('the point before a matrix is the one that it takes there; a flat one has none', () => {
  const metre = fc.double({ min: -5, max: 5, noNaN: true });
  const factor = fc.oneof(fc.double({ min: 0.1, max: 4, noNaN: true }), fc.double({ min: -4, max: -0.1, noNaN: true }));
  const point = fc.tuple(metre, metre, metre) as fc.Arbitrary<Vec3>;
  fc.assert(
    fc.property(point, turn, fc.tuple(factor, factor, factor) as fc.Arbitrary<Vec3>, point, (at, degrees, scale, p) => {
      const matrix = composeMatrix(at, quatFromTurn(degrees, 'xyz'), scale);
      pointBefore(matrix, transformPoint(matrix, p))!.forEach((value, axis) => expect(value).toBeCloseTo(p[axis], 6));
    }),
  );
  expect(pointBefore(composeMatrix([1, 2, 3], [0, 0, 0, 1], [1, 0, 1]), [1, 2, 3])).toBeNull();
});
