import fc from 'fast-check';
import { callOf, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';
import { chainKit, extentOf, greatestDifference, run, TIMES, withMotion, worldVertices } from '../tests/helpers';
import { addBinding } from '../wiring';
import { applyScale } from './apply-scale';
import { ShearError } from './shape-errors';

const factor = fc.double({ min: 0.1, max: 5, noNaN: true });
const angle = fc.double({ min: -180, max: 180, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;

test('an even scale is applied under turns, offsets and sizes: no vertex moves at any time', () => {
  fc.assert(
    fc.property(factor, factor, turn, turn, (s, deeper, one, two) => {
      const made = chainKit([
        { id: 'a', scale: [s, s, s], rotation: quatFromTurn(one, 'xyz') },
        { id: 'b', translation: [1, 2, 0], scale: [deeper, deeper, deeper], rotation: quatFromTurn(two, 'xyz') },
        { id: 'c', translation: [0, 1, 1] },
      ]);
      let kit = withMotion(made.kit, made.blobs, 'a', 'size', 1, [1, 1.4]);
      kit = withMotion(kit, made.blobs, 'b', 'turn', 0, [0, 90, -50]);
      kit = withMotion(kit, made.blobs, 'b', 'turn', 2, [0, 30]);
      kit = withMotion(kit, made.blobs, 'c', 'offset', 1, [0, 2, -1]);
      const next = run(kit, made.blobs, callOf(applyScale, { parts: ['a'] }));
      for (const part of Object.values(next.parts)) expect(part.scale).toEqual([1, 1, 1]);
      for (const time of TIMES) {
        const before = worldVertices(kit, made.blobs, 'clip', time);
        expect(greatestDifference(worldVertices(next, made.blobs, 'clip', time), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
      }
    }),
    { numRuns: 40 },
  );
});

test('an uneven scale goes down a still branch, turned children and all', () => {
  fc.assert(
    fc.property(fc.tuple(factor, factor, factor), turn, turn, (s, one, two) => {
      const { kit, blobs } = chainKit([
        { id: 'a', scale: s as Vec3 },
        { id: 'b', translation: [1, 0, 2], rotation: quatFromTurn(one, 'xyz') },
        { id: 'c', translation: [0, 1, 0], rotation: quatFromTurn(two, 'xyz'), scale: [1, 2, 1] },
      ]);
      const before = worldVertices(kit, blobs);
      const next = run(kit, blobs, callOf(applyScale, { parts: ['a'] }));
      expect(greatestDifference(worldVertices(next, blobs), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
    }),
    { numRuns: 60 },
  );
});

test('an uneven scale passes a turn about the axis that it is even around, and no other', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', scale: [2, 3, 2] },
    { id: 'b', translation: [0, 1, 0] },
  ]);
  const fits = withMotion(kit, blobs, 'b', 'turn', 1, [0, 200]);
  const next = run(fits, blobs, callOf(applyScale, { parts: ['a'] }));
  expect(greatestDifference(worldVertices(next, blobs, 'clip', 1.1), worldVertices(fits, blobs, 'clip', 1.1))).toBeLessThan(1e-4);
  const skews = withMotion(kit, blobs, 'b', 'turn', 0, [0, 200]);
  expect(() => run(skews, blobs, callOf(applyScale, { parts: ['a'] }))).toThrow(ShearError);
  expect(() => run(skews, blobs, callOf(applyScale, { parts: ['a'] }))).toThrow(/“b”/);
});

test('binding tables of children keep what they do', () => {
  const { kit, blobs } = chainKit([{ id: 'a', scale: [4, 4, 4] }, { id: 'b' }]);
  const bound = run(
    kit,
    blobs,
    callOf(addBinding, {
      id: 'x',
      part: 'b',
      variable: 'v',
      index: null,
      outside: 'clamp',
      rows: [{ value: 0, offset: [0, 0.5, 0], turn: [0, 0, 0], size: [1, 1, 1] }],
    }),
  );
  expect(run(bound, blobs, callOf(applyScale, { parts: ['a'] })).bindings.x.rows[0].offset).toEqual([0, 2, 0]);
});

test('a mirroring scale turns the winding, so that the outside stays outside', () => {
  const { kit, blobs } = chainKit([{ id: 'a', scale: [-1, 1, 1] }]);
  const next = run(kit, blobs, callOf(applyScale, { parts: ['a'] }));
  expect(next.meshes[next.parts.a.mesh!].primitives[0].indices.blob).not.toBe(kit.meshes.mesh_a.primitives[0].indices.blob);
  expect(greatestDifference(worldVertices(next, blobs), worldVertices(kit, blobs))).toBeLessThan(1e-6);
});
