import fc from 'fast-check';
import { putArray, callOf, type Vec3 } from '../document';
import { ownBounds, quatFromTurn, restWorlds } from '../geometry';
import { chainKit, extentOf, greatestDifference, run, withMotion, worldVertices } from '../tests/helpers';
import { movePivot, pivotFromWithin, pivotToAnchor, pivotWithin } from './move-pivot';
import { SkinnedPartError } from './shape-errors';

const number = fc.double({ min: -8, max: 8, noNaN: true });
const point = fc.tuple(number, number, number) as fc.Arbitrary<Vec3>;
const made = () =>
  chainKit([
    { id: 'a', translation: [1, 2, 3], rotation: quatFromTurn([20, 50, -10], 'xyz'), scale: [2, 1, 0.5] },
    { id: 'b', translation: [0, 1, 0], rotation: quatFromTurn([5, 0, 80], 'xyz') },
    { id: 'c', translation: [0.5, 0.5, 0] },
  ]);

test('a pivot moved leaves every vertex where it was, and moved back gives the same kit', () => {
  fc.assert(
    fc.property(point, fc.constantFrom('a', 'b', 'c'), (to, part) => {
      const { kit, blobs } = made();
      const before = worldVertices(kit, blobs);
      const moved = run(kit, blobs, callOf(movePivot, { part, to }));
      expect(greatestDifference(worldVertices(moved, blobs), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
      const back = run(moved, blobs, callOf(movePivot, { part, to: to.map((value) => -value) as Vec3 }));
      expect(greatestDifference(worldVertices(back, blobs), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
      back.parts[part].translation.forEach((value, axis) => expect(value).toBeCloseTo(kit.parts[part].translation[axis], 9));
    }),
  );
});

test('the pivot is where it was asked to be, and turns go about it', () => {
  const { kit, blobs } = made();
  const moved = run(kit, blobs, callOf(movePivot, { part: 'b', to: [2, 0, 0] }));
  const world = restWorlds(moved).get('b')!;
  const turning = withMotion(moved, blobs, 'b', 'turn', 1, [0, 120], 'straight');
  const still = worldVertices(turning, blobs, 'clip', 0);
  const turned = worldVertices(turning, blobs, 'clip', 1.9);
  // The wedge's second corner was at (2, 0, 0) of its own axes: now it is the pivot, and stays.
  const corner = 4 * 3 + 3;
  for (let axis = 0; axis < 3; axis++) {
    expect(turned[corner + axis]).toBeCloseTo(still[corner + axis], 6);
    expect(still[corner + axis]).toBeCloseTo(world[12 + axis], 6);
  }
});

test('an anchor puts the named point of the own bounds at the pivot', () => {
  const { kit, blobs } = made();
  const next = run(kit, blobs, callOf(pivotToAnchor, { parts: ['c'], anchor: [1, -1, 0] }));
  const bounds = ownBounds(next, blobs, next.parts.c);
  expect(bounds.max[0]).toBeCloseTo(0, 6);
  expect(bounds.min[1]).toBeCloseTo(0, 6);
  expect(bounds.min[2] + bounds.max[2]).toBeCloseTo(0, 6);
});

test('a joint’s pivot moves without its skin moving; the skinned part itself has no pivot', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 1, 0] }]);
  const { attributes } = kit.meshes.mesh_b.primitives[0];
  attributes.JOINTS_0 = putArray(blobs, new Uint16Array(16), 4);
  attributes.WEIGHTS_0 = putArray(blobs, Float32Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]), 4);
  kit.skins.s = {
    id: 's',
    name: 's',
    joints: ['a'],
    inverseBindMatrices: putArray(blobs, Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]), 16),
  };
  kit.parts.b.skin = 's';
  const before = worldVertices(kit, blobs);
  const moved = run(kit, blobs, callOf(movePivot, { part: 'a', to: [1, 2, 3] }));
  expect(greatestDifference(worldVertices(moved, blobs), before)).toBeLessThan(1e-5);
  expect(() => run(kit, blobs, callOf(movePivot, { part: 'b', to: [1, 0, 0] }))).toThrow(SkinnedPartError);
});

test('a mesh that two parts show is parted before it is changed', () => {
  const { kit, blobs } = made();
  kit.parts.c.mesh = kit.parts.b.mesh;
  const before = worldVertices(kit, blobs);
  const moved = run(kit, blobs, callOf(movePivot, { part: 'c', to: [1, 1, 1] }));
  expect(moved.parts.c.mesh).not.toBe(moved.parts.b.mesh);
  expect(greatestDifference(worldVertices(moved, blobs), before)).toBeLessThan(1e-4);
});

test('a pivot read in another part’s axes and typed there again is where it was; typed elsewhere it goes there, and nothing else moves', () => {
  fc.assert(
    fc.property(point, fc.constantFrom('a', 'c', null), ([x, y, z], axes) => {
      const { kit, blobs } = chainKit([
        { id: 'a', rotation: quatFromTurn([20, -40, 70], 'xyz'), translation: [1, 2, 3] },
        { id: 'b', rotation: quatFromTurn([-50, 10, 30], 'xyz'), translation: [0, 1, 0], scale: [2, 2, 2] },
        { id: 'c', parent: 'a', translation: [3, 0, -1] },
      ]);
      const stays = pivotFromWithin(kit, 'b', axes, pivotWithin(kit, 'b', axes));
      for (const value of stays) expect(Math.abs(value)).toBeLessThan(2e-6);
      const moved = run(kit, blobs, callOf(movePivot, { part: 'b', to: pivotFromWithin(kit, 'b', axes, [x, y, z]) }));
      pivotWithin(moved, 'b', axes).forEach((value, axis) => expect(value).toBeCloseTo([x, y, z][axis], 5));
      expect(greatestDifference(worldVertices(moved, blobs), worldVertices(kit, blobs))).toBeLessThan(1e-5);
    }),
    { numRuns: 40 },
  );
});
