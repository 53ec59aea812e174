import fc from 'fast-check';
import { childrenOf, callOf, type Kit, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';
import { furthestOf } from '../oracles/oracle';
import { plainPose, plainVertices } from '../oracles/plain-poser';
import { chainKit, greatestDifference, run, worldVertices } from '../tests/helpers';
import { gatherUnderRoot } from './gather-under-root';
import { reparentParts } from './reparent';
import { removeParts } from './remove-parts';
import { OwnBranchError, ShearError } from './shape-errors';

const angle = fc.double({ min: -180, max: 180, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;

test('hung elsewhere, a part and its branch stay where they are', () => {
  fc.assert(
    fc.property(turn, turn, (one, two) => {
      const { kit, blobs } = chainKit([
        { id: 'a', translation: [1, 2, 3], rotation: quatFromTurn(one, 'xyz'), scale: [2, 2, 2] },
        { id: 'b', translation: [0, 1, 0], rotation: quatFromTurn(two, 'xyz') },
        { id: 'c', translation: [3, 0, 0] },
      ]);
      const before = worldVertices(kit, blobs);
      const up = run(kit, blobs, callOf(reparentParts, { parts: ['c'], parent: 'a', keep: 'world' }));
      const out = run(up, blobs, callOf(reparentParts, { parts: ['b'], parent: null, place: 0, keep: 'world' }));
      expect(greatestDifference(worldVertices(out, blobs), before)).toBeLessThan(1e-5);
      expect(childrenOf(out, null).map((part) => part.id)).toEqual(['b', 'a']);
    }),
  );
});

test('with local kept the numbers stay', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', translation: [5, 0, 0] },
    { id: 'b', translation: [0, 1, 0] },
  ]);
  expect(run(kit, blobs, callOf(reparentParts, { parts: ['b'], parent: null, keep: 'local' })).parts.b.translation).toEqual([0, 1, 0]);
});

test('below itself is refused, and so is a place that would skew', () => {
  const { kit, blobs } = chainKit([{ id: 'a', scale: [3, 1, 1] }, { id: 'b' }]);
  expect(() => run(kit, blobs, callOf(reparentParts, { parts: ['a'], parent: 'b', keep: 'world' }))).toThrow(OwnBranchError);
  const loose = run(kit, blobs, callOf(reparentParts, { parts: ['b'], parent: null, keep: 'local' }));
  const tilted = { ...loose, parts: { ...loose.parts, b: { ...loose.parts.b, rotation: quatFromTurn([0, 0, 30], 'xyz') } } };
  expect(() => run(tilted, blobs, callOf(reparentParts, { parts: ['b'], parent: 'a', keep: 'world' }))).toThrow(ShearError);
});

test('gathering makes one root at the origin and moves nothing', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', translation: [1, 2, 3] },
    { id: 'b', parent: null, translation: [0, -4, 0] },
  ]);
  const before = worldVertices(kit, blobs);
  const next = run(kit, blobs, callOf(gatherUnderRoot, { id: 'root', name: 'base' }));
  expect(childrenOf(next, null).map((part) => part.id)).toEqual(['root']);
  const { root: _, ...others } = next.parts;
  expect(
    greatestDifference(
      worldVertices({ ...next, parts: { ...others, a: { ...others.a, parent: null }, b: { ...others.b, parent: null } } }, blobs),
      before,
    ),
  ).toBe(0);
});

test('a part taken out takes its branch, its motion and its meshes along', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }, { id: 'c' }]);
  const next = run(kit, blobs, callOf(removeParts, { parts: ['b'] }));
  expect(Object.keys(next.parts)).toEqual(['a']);
  expect(Object.keys(next.meshes)).toEqual(['mesh_a']);
});

test('gathering below the base that there is, wherever it hangs and stands, makes it the one root and moves nothing', () => {
  fc.assert(
    fc.property(turn, turn, fc.boolean(), (one, two, nested) => {
      const { kit, blobs } = chainKit([
        { id: 'a', translation: [1, 2, 3], rotation: quatFromTurn(one, 'xyz') },
        { id: 'base', parent: nested ? 'a' : null, translation: [0, -4, 0], rotation: quatFromTurn(two, 'xyz'), scale: [2, 2, 2] },
        { id: 'c', parent: 'base', translation: [0, 1, 0] },
      ]);
      const next = run(kit, blobs, callOf(gatherUnderRoot, { name: 'base', base: 'base' }));
      expect(childrenOf(next, null).map((part) => part.id)).toEqual(['base']);
      expect([next.parts.base.translation, next.parts.base.rotation]).toEqual([
        [0, 0, 0],
        [0, 0, 0, 1],
      ]);
      expect(Object.keys(next.parts)).toHaveLength(3);
      const places = (one: Kit) => plainVertices(one, blobs, plainPose(one, blobs, null, 0));
      expect(furthestOf(places(next), places(kit))).toBeLessThan(2e-5);
    }),
    { numRuns: 40 },
  );
});
