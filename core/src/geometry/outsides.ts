import type { Blobs, Mesh } from '../document';
import { edgeEnds, graphOf, type MeshGraph } from './mesh-graph';
import { SurfaceTree } from './nearest-surface';
import { wholeMesh, type WholeMesh } from './whole-mesh';

/** How the outside of a piece was found: by the volume that it encloses, by what can be seen, or not at all. */
export type OutsideBy = 'volume' | 'sight' | 'unclear';

/** Triangles that hang together over their edges. */
export interface OutsidePiece {
  faces: number[];
  by: OutsideBy;
}

export interface Outsides {
  /** 1 for each face of the mesh that has to be turned so that neighbours run alike and each piece shows its outside. */
  turn: Uint8Array;
  pieces: OutsidePiece[];
}

const known = new WeakMap<Mesh, Outsides>();

/** Where the outside of each piece of a mesh is, worked out once for each mesh of the document. */
export function outsidesOf(mesh: Mesh, blobs: Blobs): Outsides {
  let found = known.get(mesh);
  if (!found) known.set(mesh, (found = findOutsides(wholeMesh(mesh, blobs), graphOf(mesh, blobs))));
  return found;
}

/**
 * Neighbours are made to run alike, breadth first over the edges. Of a closed piece the enclosed volume says which side is outside; one
 * that lies within another may be its hollow or a thing of its own, so that it stays as most of it is. Of an open piece that side is
 * outside from which more can be seen, by rays from its faces through the whole mesh. Where neither tells, it is unclear.
 */
function findOutsides(whole: WholeMesh, graph: MeshGraph): Outsides {
  const count = whole.starts.at(-1)!;
  const turn = new Uint8Array(count);
  const pieces: (OutsidePiece & { closed: boolean })[] = [];
  const seen = new Uint8Array(count);
  for (let start = 0; start < count; start++) if (!seen[start]) pieces.push(followPiece(graph, start, seen, turn));
  const tree = count > 0 ? new SurfaceTree(whole.positions, whole.indices) : null;
  const pieceOf = new Uint32Array(count);
  pieces.forEach(({ faces }, n) => faces.forEach((face) => (pieceOf[face] = n)));
  const closed = (n: number) => pieces[n].closed;
  pieces.forEach((piece, n) => {
    if (piece.by === 'unclear') return;
    let side: Side = null;
    if (!piece.closed) side = sightSide(whole, graph, tree!, piece.faces, turn);
    else if (!isNested(whole, tree!, piece.faces, pieceOf, n, closed)) side = volumeSide(whole, piece.faces, turn);
    if (side === null) {
      piece.by = 'unclear';
      // The fewer are turned.
      if (2 * piece.faces.reduce((sum, face) => sum + turn[face], 0) <= piece.faces.length) return;
    } else piece.by = piece.closed ? 'volume' : 'sight';
    if (side !== 'out') for (const face of piece.faces) turn[face] ^= 1;
  });
  return { turn, pieces };
}

/** Faces that hang together with one; marks those that run against the first. Unclear where no side is one side, as of a Möbius strip. */
function followPiece(graph: MeshGraph, start: number, seen: Uint8Array, turn: Uint8Array): OutsidePiece & { closed: boolean } {
  const faces = [start];
  seen[start] = 1;
  let closed = true;
  let oneSided = false;
  for (let i = 0; i < faces.length; i++) {
    const face = faces[i];
    if (graph.at[face + 1] - graph.at[face] !== 3) closed = false;
    for (let n = graph.at[face]; n < graph.at[face + 1]; n++) {
      const other = graph.neighbours[n];
      const turned = turn[face] ^ (sameDirection(graph.places, face, other) ? 1 : 0);
      if (seen[other]) {
        oneSided ||= turn[other] !== turned;
        continue;
      }
      seen[other] = 1;
      turn[other] = turned;
      faces.push(other);
    }
  }
  return { faces, closed, by: oneSided && closed ? 'unclear' : 'volume' };
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

type Side = 'out' | 'in' | null;

/** Less than this share of the box about a piece is no volume. */
const NO_VOLUME = 1e-6;

/** Where the outside of a closed piece is; null where it encloses nothing, as a sheet with two sides does. */
function volumeSide({ positions, indices }: WholeMesh, faces: readonly number[], turn: Uint8Array): Side {
  const volume = enclosedVolume(positions, indices, faces, turn);
  const size = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (const face of faces)
      for (let k = 0; k < 3; k++) {
        const value = positions[3 * indices[3 * face + k] + axis];
        [low, high] = [Math.min(low, value), Math.max(high, value)];
      }
    return high - low;
  });
  const box = Math.max(size[0] * size[1] * size[2], 1e-3 * Math.max(...size) ** 3 * NO_VOLUME);
  if (Math.abs(volume) <= NO_VOLUME * box) return null;
  return volume > 0 ? 'out' : 'in';
}

/** The signed volume that faces enclose about their own middle, in the positions' unit cubed: positive where they look outward. */
export function enclosedVolume(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  faces: readonly number[],
  turn?: ArrayLike<number>,
): number {
  const middle = [0, 0, 0];
  for (const face of faces)
    for (let k = 0; k < 3; k++)
      for (let axis = 0; axis < 3; axis++) middle[axis] += positions[3 * indices[3 * face + k] + axis] / (3 * faces.length);
  let volume = 0;
  for (const face of faces) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => positions[3 * indices[3 * face + k] + axis] - middle[axis]));
    const six = a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
    volume += turn?.[face] ? -six : six;
  }
  return volume / 6;
}

/** A way that runs along no edge that anybody models. */
const ODD_WAY = [0.5412, 0.7231, 0.4293];

/** Whether a closed piece lies within another closed one: a ray from it leaves some other an odd number of times. */
function isNested(
  { positions, indices }: WholeMesh,
  tree: SurfaceTree,
  faces: readonly number[],
  pieceOf: Uint32Array,
  own: number,
  closed: (piece: number) => boolean,
): boolean {
  const at = 3 * faces[0];
  const origin = [0, 1, 2].map((axis) => [0, 1, 2].reduce((sum, k) => sum + positions[3 * indices[at + k] + axis] / 3, 0));
  const met = new Map<number, number>();
  tree.eachOnRay(origin, ODD_WAY, (triangle) => {
    const piece = pieceOf[triangle];
    if (piece !== own && closed(piece)) met.set(piece, (met.get(piece) ?? 0) + 1);
    return true;
  });
  return [...met.values()].some((times) => times % 2 === 1);
}

/** Faces of an open piece that are looked from, and ways from each. */
const LOOKS = 48;
/** Of all that is seen, the two sides differ by this share at least. */
const CLEARLY = 0.15;

/** The side of an open piece from which more of its rays get away; null where both see alike, as of a flat sheet. */
function sightSide(
  { positions, indices }: WholeMesh,
  graph: MeshGraph,
  tree: SurfaceTree,
  faces: readonly number[],
  turn: Uint8Array,
): Side {
  const away = { front: 0, back: 0 };
  let looked = 0;
  const step = Math.max(1, Math.floor(faces.length / LOOKS));
  for (let i = 0; i < faces.length; i += step) {
    const face = faces[i];
    const sign = turn[face] ? -1 : 1;
    const normal = [0, 1, 2].map((axis) => sign * graph.normals[3 * face + axis]);
    if (normal.every((value) => value === 0)) continue;
    const corner = (k: number, axis: number) => positions[3 * indices[3 * face + k] + axis];
    const middle = [0, 1, 2].map((axis) => (corner(0, axis) + corner(1, axis) + corner(2, axis)) / 3);
    for (const way of WAYS) {
      const along = way[0] * normal[0] + way[1] * normal[1] + way[2] * normal[2];
      if (Math.abs(along) < 0.1) continue;
      let free = true;
      tree.eachOnRay(middle, way, (triangle) => (free = triangle === face));
      looked++;
      if (free) away[along > 0 ? 'front' : 'back']++;
    }
  }
  if (looked === 0 || Math.abs(away.front - away.back) < (CLEARLY * looked) / 2) return null;
  return away.front > away.back ? 'out' : 'in';
}

/** Ways all round, each with its opposite. */
const WAYS = Array.from({ length: 13 }, (_, i) => {
  const y = (i + 0.5) / 13;
  const r = Math.sqrt(1 - y * y);
  const turn = Math.PI * (3 - Math.sqrt(5)) * i + 0.3;
  return [r * Math.cos(turn), y, r * Math.sin(turn)];
}).flatMap((way) => [way, way.map((value) => -value)]);
