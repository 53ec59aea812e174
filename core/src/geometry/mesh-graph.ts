import type { Blobs, Mesh } from '../document';
import { weldedPlaces } from './mesh-figures';
import { wholeMesh } from './whole-mesh';

/**
 * Which triangles of one triangle list lie beside which: across edges whose two ends stand at the same places, whatever their vertices'
 * normals and UVs say. Where more than two triangles share an edge, all of them are neighbours.
 */
export interface MeshGraph {
  triangles: number;
  /** For every corner the number of its place; equal where vertices stand at one place. */
  places: Uint32Array;
  /** Where a triangle's neighbours begin in `neighbours`; one more entry than triangles. */
  at: Uint32Array;
  neighbours: Uint32Array;
  /** Unit normal of every triangle, 3 numbers each; nothing where it has no area. */
  normals: Float64Array;
}

/** @param positions 3 numbers a vertex @param indices 3 a triangle */
export function meshGraph(positions: Float32Array, indices: Uint32Array): MeshGraph {
  const triangles = Math.floor(indices.length / 3);
  const placeOfVertex = weldedPlaces(positions);
  const places = new Uint32Array(3 * triangles);
  for (let i = 0; i < places.length; i++) places[i] = placeOfVertex[indices[i]];
  const { first, next } = edgeChains(places);

  const counts = new Uint32Array(triangles + 1);
  eachEdgePair(places, first, next, (a, b) => (counts[a + 1]++, counts[b + 1]++));
  for (let t = 0; t < triangles; t++) counts[t + 1] += counts[t];
  const at = counts.slice();
  const neighbours = new Uint32Array(at[triangles]);
  eachEdgePair(places, first, next, (a, b) => ((neighbours[counts[a]++] = b), (neighbours[counts[b]++] = a)));
  return { triangles, places, at, neighbours, normals: triangleNormals(positions, indices) };
}

/** Chains of edges (3t, 3t+1, 3t+2 of triangle t) by a hash of their two places. */
function edgeChains(places: Uint32Array): { first: Int32Array; next: Int32Array } {
  let size = 16;
  while (size < 2 * places.length) size *= 2;
  const first = new Int32Array(size).fill(-1);
  const next = new Int32Array(places.length).fill(-1);
  for (let edge = 0; edge < places.length; edge++) {
    const [a, b] = edgeEnds(places, edge);
    if (a === b) continue;
    const slot = hashEdge(a, b) & (size - 1);
    next[edge] = first[slot];
    first[slot] = edge;
  }
  return { first, next };
}

function eachEdgePair(places: Uint32Array, first: Int32Array, next: Int32Array, visit: (a: number, b: number) => void): void {
  for (let slot = 0; slot < first.length; slot++) {
    for (let edge = first[slot]; edge >= 0; edge = next[edge]) {
      const [a, b] = edgeEnds(places, edge);
      for (let other = next[edge]; other >= 0; other = next[other]) {
        const [c, d] = edgeEnds(places, other);
        if (a !== c || b !== d) continue;
        const one = Math.floor(edge / 3);
        const two = Math.floor(other / 3);
        if (one !== two) visit(one, two);
      }
    }
  }
}

/** Both ends of an edge, the lower place first. */
export function edgeEnds(places: Uint32Array, edge: number): [number, number] {
  const a = places[edge];
  const b = places[edge % 3 === 2 ? edge - 2 : edge + 1];
  return a < b ? [a, b] : [b, a];
}

function hashEdge(a: number, b: number): number {
  const h = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b);
  return (h ^ (h >>> 15)) >>> 0;
}

/** Unit normals, 3 numbers a triangle. */
export function triangleNormals(positions: Float32Array, indices: Uint32Array): Float64Array {
  const out = new Float64Array(3 * Math.floor(indices.length / 3));
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const a = 3 * indices[i];
    const b = 3 * indices[i + 1];
    const c = 3 * indices[i + 2];
    const ux = positions[b] - positions[a];
    const uy = positions[b + 1] - positions[a + 1];
    const uz = positions[b + 2] - positions[a + 2];
    const vx = positions[c] - positions[a];
    const vy = positions[c + 1] - positions[a + 1];
    const vz = positions[c + 2] - positions[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (length === 0) continue;
    out[i] = nx / length;
    out[i + 1] = ny / length;
    out[i + 2] = nz / length;
  }
  return out;
}

/**
 * The number of the loose piece that each triangle belongs to, pieces counted from 0 in the order of their first triangle: triangles that
 * share a place hang together. Union by path halving (Tarjan & van Leeuwen 1984), so that the time grows with the number of triangles
 * alone.
 */
export function loosePieces(places: Uint32Array): { pieceOf: Uint32Array; pieces: number } {
  const triangles = Math.floor(places.length / 3);
  let most = 0;
  for (let i = 0; i < places.length; i++) if (places[i] > most) most = places[i];
  const parent = new Uint32Array(most + 1);
  for (let i = 0; i <= most; i++) parent[i] = i;
  const root = (place: number) => {
    while (parent[place] !== place) {
      parent[place] = parent[parent[place]];
      place = parent[place];
    }
    return place;
  };
  for (let t = 0; t < 3 * triangles; t += 3) {
    const a = root(places[t]);
    parent[root(places[t + 1])] = a;
    parent[root(places[t + 2])] = a;
  }
  const numberOf = new Int32Array(most + 1).fill(-1);
  const pieceOf = new Uint32Array(triangles);
  let pieces = 0;
  for (let t = 0; t < triangles; t++) {
    const top = root(places[3 * t]);
    if (numberOf[top] < 0) numberOf[top] = pieces++;
    pieceOf[t] = numberOf[top];
  }
  return { pieceOf, pieces };
}

/**
 * Triangles that are reached from some without crossing an edge sharper than an angle.
 *
 * @param sharpDegrees Between the normals of two neighbours; 180 crosses every edge.
 */
export function floodTriangles(graph: MeshGraph, from: Iterable<number>, sharpDegrees: number): Set<number> {
  const limit = Math.cos((Math.min(180, sharpDegrees) * Math.PI) / 180) - 1e-9;
  const found = new Set(from);
  const stack = [...found];
  while (stack.length > 0) {
    const t = stack.pop()!;
    for (let i = graph.at[t]; i < graph.at[t + 1]; i++) {
      const other = graph.neighbours[i];
      if (found.has(other)) continue;
      const { normals: n } = graph;
      if (n[3 * t] * n[3 * other] + n[3 * t + 1] * n[3 * other + 1] + n[3 * t + 2] * n[3 * other + 2] < limit) continue;
      found.add(other);
      stack.push(other);
    }
  }
  return found;
}

/** The chosen triangles and all that share an edge with one of them. */
export function growTriangles(graph: MeshGraph, chosen: ReadonlySet<number>): Set<number> {
  const grown = new Set(chosen);
  for (const t of chosen) for (let i = graph.at[t]; i < graph.at[t + 1]; i++) grown.add(graph.neighbours[i]);
  return grown;
}

/** The chosen triangles without those that have a neighbour which is not chosen, or none on a side. */
export function shrinkTriangles(graph: MeshGraph, chosen: ReadonlySet<number>): Set<number> {
  const kept = new Set<number>();
  for (const t of chosen) {
    let inside = graph.at[t + 1] - graph.at[t] >= 3;
    for (let i = graph.at[t]; inside && i < graph.at[t + 1]; i++) inside = chosen.has(graph.neighbours[i]);
    if (inside) kept.add(t);
  }
  return kept;
}

/**
 * The ring of edges about a hole or a shaft that an edge lies on: from place to place along edges of the same kind, until it closes. Open
 * edges (which one triangle has) make the rim of a hole; edges sharper than the angle make the rim of a shaft or a cap.
 *
 * @param edge 3t, 3t+1 or 3t+2 of triangle t.
 * @returns Places in order, or null where the edge is of neither kind or its way does not close.
 */
export function edgeRing(graph: MeshGraph, edge: number, sharpDegrees = 30): number[] | null {
  const rims = rimEdges(graph, sharpDegrees);
  const [start, second] = edgeEnds(graph.places, edge);
  if (!rims.get(start)?.has(second)) return null;
  const ring = [start];
  let before = start;
  let here = second;
  for (let steps = 0; steps < graph.places.length; steps++) {
    ring.push(here);
    const ways: number[] = [...(rims.get(here) ?? [])].filter((place) => place !== before);
    // A rim that branches is no ring: nobody could say which way is meant.
    if (ways.length !== 1) return null;
    before = here;
    here = ways[0];
    if (here === start) return ring;
  }
  return null;
}

/** Places joined by edges that are open or sharp. */
function rimEdges(graph: MeshGraph, sharpDegrees: number): Map<number, Set<number>> {
  const limit = Math.cos((sharpDegrees * Math.PI) / 180);
  const owners = new Map<string, number[]>();
  for (let e = 0; e < graph.places.length; e++) {
    const [a, b] = edgeEnds(graph.places, e);
    if (a === b) continue;
    const key = `${a}/${b}`;
    const list = owners.get(key);
    if (list) list.push(Math.floor(e / 3));
    else owners.set(key, [Math.floor(e / 3)]);
  }
  const rims = new Map<number, Set<number>>();
  const link = (a: number, b: number) => (rims.get(a) ?? rims.set(a, new Set()).get(a)!).add(b);
  for (const [key, [one, two, ...more]] of owners) {
    const { normals: n } = graph;
    const sharp =
      two === undefined ||
      more.length > 0 ||
      n[3 * one] * n[3 * two] + n[3 * one + 1] * n[3 * two + 1] + n[3 * one + 2] * n[3 * two + 2] < limit;
    if (!sharp) continue;
    const [a, b] = key.split('/').map(Number);
    link(a, b);
    link(b, a);
  }
  return rims;
}

/** For every corner of a mesh's faces the number of its place. */
export function meshPlaces(mesh: Mesh, blobs: Blobs): Uint32Array {
  const { positions, indices } = wholeMesh(mesh, blobs);
  const placeOfVertex = weldedPlaces(positions);
  return placesOf(indices, placeOfVertex);
}

const graphs = new WeakMap<Mesh, MeshGraph>();

/** The graph of a mesh's faces, worked out once for each mesh of the document. */
export function graphOf(mesh: Mesh, blobs: Blobs): MeshGraph {
  let graph = graphs.get(mesh);
  if (!graph) {
    const { positions, indices } = wholeMesh(mesh, blobs);
    graphs.set(mesh, (graph = meshGraph(positions, indices)));
  }
  return graph;
}

/** What stands for each vertex that indices name, in a plain loop: meshes have millions. */
export function placesOf(indices: Uint32Array, placeOf: ArrayLike<number>): Uint32Array {
  const out = new Uint32Array(indices.length);
  for (let i = 0; i < indices.length; i++) out[i] = placeOf[indices[i]];
  return out;
}
