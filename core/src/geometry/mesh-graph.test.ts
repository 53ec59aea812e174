import fc from 'fast-check';
import { emptyKit, MemoryBlobs } from '../document';
import { putSphere } from '../tests/helpers';
import { edgeRing, floodTriangles, graphOf, growTriangles, loosePieces, meshGraph, shrinkTriangles, type MeshGraph } from './mesh-graph';
import { markRuns, runsOf } from './whole-mesh';

/** A box of two metres as 12 triangles without shared corners, and a lone triangle far off. */
function box(): MeshGraph {
  const corner = (n: number) => [n & 1 ? 1 : -1, n & 2 ? 1 : -1, n & 4 ? 1 : -1];
  const sides = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const points = sides.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]).map(corner);
  points.push([9, 9, 9], [10, 9, 9], [9, 10, 9]);
  return meshGraph(Float32Array.from(points.flat()), Uint32Array.from(points.keys()));
}

test('every triangle of a box has three neighbours; the lone one has none', () => {
  const { at } = box();
  expect(Array.from({ length: 13 }, (_, t) => at[t + 1] - at[t])).toEqual([...Array<number>(12).fill(3), 0]);
});

test('a flood stops at sharp edges, and loose pieces are counted', () => {
  const graph = box();
  expect([...floodTriangles(graph, [0], 30)].sort()).toEqual([0, 1]);
  expect(floodTriangles(graph, [0], 180).size).toBe(12);
  const { pieces, pieceOf } = loosePieces(graph.places);
  expect([pieces, pieceOf[0], pieceOf[11], pieceOf[12]]).toEqual([2, 0, 0, 1]);
});

test('growing and shrinking: shrinking never leaves what was not chosen, and undoes a growth on a closed mesh at least', () => {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Ball');
  putSphere(kit, blobs, 'ball', 10);
  const graph = graphOf(kit.meshes.ball, blobs);
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(graph.triangles - 1), { minLength: 1 }), (list) => {
      const chosen = new Set(list);
      const grown = growTriangles(graph, chosen);
      const back = shrinkTriangles(graph, grown);
      for (const t of chosen) expect(back.has(t)).toBe(true);
      for (const t of shrinkTriangles(graph, chosen)) expect(chosen.has(t)).toBe(true);
    }),
  );
});

test('the rim of a side is a ring of four; an edge across a side, and one of a rim that branches, are none', () => {
  const graph = box();
  // Two sides meet at every corner of a box with a third one, so rims branch: a lone sheet has a plain rim.
  expect(edgeRing(graph, 0)).toBeNull();
  const sheet = meshGraph(Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]), Uint32Array.from([0, 1, 2, 0, 2, 3]));
  expect(edgeRing(sheet, 0)).toHaveLength(4);
  expect(edgeRing(sheet, 2)).toBeNull();
});

test('runs hold exactly the numbers that they were made of', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(200)), (list) => {
      const marks = markRuns(runsOf(list), 201);
      expect([...marks.keys()].filter((n) => marks[n])).toEqual([...new Set(list)].sort((a, b) => a - b));
    }),
  );
});
