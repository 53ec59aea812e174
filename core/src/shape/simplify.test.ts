import fc from 'fast-check';
import { readArray, callOf, type Kit, type MemoryBlobs } from '../document';
import { kitCounts, SurfaceTree, weldedPlaces, wholeMesh } from '../geometry';
import { chainKit, putSphere, run } from '../tests/helpers';
import { simplification, simplifyParts } from './simplify';
import type { SimplifyGoal } from './simplify-meshes';
import { loadSimplifier } from './simplify-primitive';
import { flipFaces, unifyWindings, weldParts } from './edit-surfaces';

beforeAll(loadSimplifier);

function balls(): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([{ id: 'a' }, { id: 'b', translation: [3, 0, 0], scale: [2, 2, 2] }, { id: 'c', translation: [0, 3, 0] }]);
  putSphere(made.kit, made.blobs, 'fine', 40);
  putSphere(made.kit, made.blobs, 'coarse', 12);
  made.kit.parts.a.mesh = made.kit.parts.b.mesh = 'fine';
  made.kit.parts.c.mesh = 'coarse';
  return made;
}

test.each<[string, SimplifyGoal, (before: number) => number]>([
  ['triangles', { triangles: 1000 }, () => 1000],
  ['a share', { share: 0.3 }, (before) => 0.3 * before],
])('goes to %s, and its error holds what it says', (_, goal, budgetOf) => {
  const { kit, blobs } = balls();
  const before = kitCounts(kit).triangles;
  const next = run(kit, blobs, callOf(simplifyParts, { parts: ['a', 'b', 'c'], goal }));
  const budget = budgetOf(before);
  const after = kitCounts(next).triangles;
  expect(after).toBeLessThanOrEqual(budget);
  expect(after).toBeGreaterThan(0.8 * budget);
  const { errorMm } = simplification(kit, { parts: ['a', 'b', 'c'], goal }, blobs);
  expect(errorMm).toBeGreaterThan(0);
  // Every old vertex lies near the new surface; the figure is a mean over quadrics, so some lie a little further off.
  for (const id of ['fine', 'coarse']) expect(furthest(kit, next, id, blobs)).toBeLessThan(2.5 * errorMm);
});

/** How far the vertices of a mesh lie from what became of it, millimetres. */
function furthest(kit: Kit, next: Kit, mesh: string, blobs: MemoryBlobs): number {
  const now = wholeMesh(next.meshes[mesh], blobs);
  const tree = new SurfaceTree(now.positions, now.indices);
  const { positions } = wholeMesh(kit.meshes[mesh], blobs);
  let most = 0;
  for (let v = 0; v < positions.length; v += 3)
    most = Math.max(most, tree.nearest(positions[v], positions[v + 1], positions[v + 2]).squaredDistance);
  return 1000 * Math.sqrt(most);
}

test('a tolerance is not passed, and less of it leaves more triangles', () => {
  const { kit, blobs } = balls();
  const counts = [0.5, 5, 50].map((toleranceMm) => {
    const { errorMm } = simplification(kit, { parts: ['a'], goal: { toleranceMm } }, blobs);
    expect(errorMm).toBeLessThanOrEqual(toleranceMm * 1.0001);
    return kitCounts(run(kit, blobs, callOf(simplifyParts, { parts: ['a'], goal: { toleranceMm } }))).triangles;
  });
  expect(counts[0]).toBeGreaterThan(counts[1]);
  expect(counts[1]).toBeGreaterThan(counts[2]);
});

test('vertices that stay keep their numbers: every new one is an old one, UVs and all', () => {
  const { kit, blobs } = balls();
  const next = run(kit, blobs, callOf(simplifyParts, { parts: ['c'], goal: { share: 0.5 } }));
  const rows = (one: Kit) => {
    const { POSITION, TEXCOORD_0 } = one.meshes.coarse.primitives[0].attributes;
    const [p, uv] = [readArray<Float32Array>(blobs, POSITION), readArray<Float32Array>(blobs, TEXCOORD_0)];
    return Array.from({ length: POSITION.count }, (_, v) => [...p.subarray(3 * v, 3 * v + 3), ...uv.subarray(2 * v, 2 * v + 2)].join());
  };
  const old = new Set(rows(kit));
  for (const row of rows(next)) expect(old.has(row)).toBe(true);
});

test('a spared part and parts outside the choice are left alone; a shared mesh is parted', () => {
  const { kit, blobs } = balls();
  const next = run(kit, blobs, callOf(simplifyParts, { parts: ['a', 'c'], spare: ['c'], goal: { share: 0.2 } }));
  expect(next.parts.b.mesh).toBe('fine');
  expect(next.meshes.fine).toEqual(kit.meshes.fine);
  expect(next.meshes.coarse).toEqual(kit.meshes.coarse);
  expect(next.parts.a.mesh).not.toBe('fine');
});

test('welding makes one of vertices within the distance, and moves no other', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 0.4, noNaN: true }), (millimetres) => {
      const { kit, blobs } = balls();
      const next = run(kit, blobs, callOf(weldParts, { parts: ['c'], distanceMm: millimetres }));
      const places = (one: Kit) => new Set(weldedPlaces(wholeMesh(one.meshes.coarse, blobs).positions)).size;
      expect(places(next)).toBe(places(kit));
      expect(kitCounts(next).triangles).toBe(kitCounts(kit).triangles);
    }),
    { numRuns: 10 },
  );
  const { kit, blobs } = balls();
  // Every edge of the coarse ball is shorter than a metre: nothing is left of it but what UVs keep apart.
  expect(kitCounts(run(kit, blobs, callOf(weldParts, { parts: ['c'], distanceMm: 1 }))).vertices).toBeLessThanOrEqual(
    kitCounts(kit).vertices,
  );
});

test('windings that were turned here and there are found and turned back, outsides outward', () => {
  const { kit, blobs } = balls();
  const inside = run(kit, blobs, callOf(flipFaces, { parts: ['c'] }));
  expect(volume(inside, blobs)).toBeCloseTo(-volume(kit, blobs), 6);
  const back = run(inside, blobs, callOf(unifyWindings, { parts: ['c'], angleDegrees: 60 }));
  expect(volume(back, blobs)).toBeCloseTo(volume(kit, blobs), 6);
  expect(run(kit, blobs, callOf(unifyWindings, { parts: ['c'], angleDegrees: 60 })).meshes.coarse).toEqual(kit.meshes.coarse);
});

function volume(kit: Kit, blobs: MemoryBlobs): number {
  const { positions, indices } = wholeMesh(kit.meshes[kit.parts.c.mesh!], blobs);
  let sum = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => positions[3 * indices[t + k] + axis]));
    sum += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
  }
  return sum;
}
