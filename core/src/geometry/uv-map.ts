import { readArray, type Blobs, type Mesh } from '../document';
import { coverUv, newUvCells, overlapShare, weldedPlaces } from './mesh-figures';
import { loosePieces } from './mesh-graph';

/** A mesh's UVs as a picture shows them. */
export interface UvMap {
  /** Corners of triangles, two numbers each, three corners a triangle. */
  corners: Float32Array;
  /** The island that each triangle belongs to. */
  islandOf: Uint32Array;
  islands: number;
  /** One for each triangle with a corner outside of the unit square. */
  outside: Uint8Array;
  /** How often each cell of a square map is covered, row by row from v = 0; only of the first set. */
  cells: Uint8Array;
  /** Share of the covered cells that is covered more than once. */
  overlap: number;
}

const NEAR = 1e-4;

/** @param set Number of the UV set. @returns null where no primitive has it. */
export function uvMap(mesh: Mesh, blobs: Blobs, set = 0): UvMap | null {
  const corners: number[] = [];
  const cells = newUvCells();
  for (const { attributes, indices } of mesh.primitives) {
    const accessor = attributes[`TEXCOORD_${set}`];
    if (!accessor) continue;
    const uvs = readArray<Float32Array>(blobs, accessor);
    for (const vertex of readArray<Uint32Array>(blobs, indices)) corners.push(uvs[2 * vertex], uvs[2 * vertex + 1]);
    coverUv({ material: null, attributes: { TEXCOORD_0: accessor }, indices }, blobs, cells);
  }
  if (corners.length === 0) return null;
  const places = weldedPlaces(
    Float32Array.from({ length: (corners.length / 2) * 3 }, (_, i) => (i % 3 === 2 ? 0 : corners[2 * Math.floor(i / 3) + (i % 3)])),
  );
  const { pieceOf, pieces } = loosePieces(places);
  const outside = Uint8Array.from({ length: corners.length / 6 }, (_, t) =>
    corners.slice(6 * t, 6 * t + 6).some((value) => value < -NEAR || value > 1 + NEAR) ? 1 : 0,
  );
  return { corners: Float32Array.from(corners), islandOf: pieceOf, islands: pieces, outside, cells, overlap: overlapShare(cells) };
}
