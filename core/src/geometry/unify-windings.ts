import type { Blobs, Mesh } from '../document';
import { edgeEnds, graphOf } from './mesh-graph';
import { wholeMesh } from './whole-mesh';

/**
 * Faces to be turned round so that neighbours run the same way and every loose piece shows its outside: breadth first over the edges; then
 * the side on which a piece's signed volume is positive, or where it is open, most of its normals.
 *
 * @returns 1 for each face of the mesh that has to be turned.
 */
export function facesToTurn(mesh: Mesh, blobs: Blobs): Uint8Array {
  const { positions, indices, starts } = wholeMesh(mesh, blobs);
  const graph = graphOf(mesh, blobs);
  const count = starts.at(-1)!;
  const turn = new Uint8Array(count);
  const seen = new Uint8Array(count);
  for (let start = 0; start < count; start++) {
    if (seen[start]) continue;
    const piece = [start];
    seen[start] = 1;
    for (let i = 0; i < piece.length; i++) {
      const face = piece[i];
      for (let n = graph.at[face]; n < graph.at[face + 1]; n++) {
        const other = graph.neighbours[n];
        if (seen[other]) continue;
        seen[other] = 1;
        turn[other] = turn[face] ^ (sameDirection(graph.places, face, other) ? 1 : 0);
        piece.push(other);
      }
    }
    if (volumeOf(positions, indices, piece, turn) < 0) for (const face of piece) turn[face] ^= 1;
  }
  return turn;
}

/** Whether two faces run along their common edge in the same direction: then one of them is turned over. */
function sameDirection(places: Uint32Array, one: number, two: number): boolean {
  for (let a = 3 * one; a < 3 * one + 3; a++) {
    for (let b = 3 * two; b < 3 * two + 3; b++) {
      const [low, high] = edgeEnds(places, a);
      const [other, end] = edgeEnds(places, b);
      if (low === other && high === end && low !== high) return places[a] === places[b];
    }
  }
  return false;
}

/** Six times the volume that a piece encloses, about its own middle, so that an open piece counts by where its faces look. */
function volumeOf(positions: Float32Array, indices: Uint32Array, piece: number[], turn: Uint8Array): number {
  const middle = [0, 0, 0];
  for (const face of piece)
    for (let k = 0; k < 3; k++)
      for (let axis = 0; axis < 3; axis++) middle[axis] += positions[3 * indices[3 * face + k] + axis] / (3 * piece.length);
  let volume = 0;
  for (const face of piece) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => positions[3 * indices[3 * face + k] + axis] - middle[axis]));
    const six = a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
    volume += turn[face] ? -six : six;
  }
  return volume;
}
