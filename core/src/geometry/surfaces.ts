import { putArray, readArray, type Accessor, type Blobs, type Primitive } from '../document';
import { triangleNormals } from './mesh-graph';
import { areaNormals } from './vectors';
import { morphed } from './vertices';

/** Twice the area under which a triangle counts as nothing, as a share of its longest edge squared. */
const FLAT = 1e-9;

/** Indices (0, 1, 2…) of triangles with two equal corners or no area. */
export function degenerateTriangles(primitive: Primitive, blobs: Blobs): number[] {
  if (!primitive.attributes.POSITION) return [];
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const result: number[] = [];
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const a = 3 * indices[t];
    const b = 3 * indices[t + 1];
    const c = 3 * indices[t + 2];
    const ux = positions[b] - positions[a];
    const uy = positions[b + 1] - positions[a + 1];
    const uz = positions[b + 2] - positions[a + 2];
    const vx = positions[c] - positions[a];
    const vy = positions[c + 1] - positions[a + 1];
    const vz = positions[c + 2] - positions[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const longest = Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz);
    if (!(nx * nx + ny * ny + nz * nz > FLAT * FLAT * longest * longest)) result.push(t / 3);
  }
  return result;
}

/** A primitive without the triangles of these numbers; its vertices stay. */
export function dropTriangles(primitive: Primitive, triangles: number[], blobs: Blobs): Primitive {
  const gone = new Set(triangles);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const kept = indices.filter((_, i) => !gone.has(Math.floor(i / 3)));
  return { ...primitive, indices: putArray(blobs, kept, 1) };
}

/** Rows of a NORMAL attribute that are not unit vectors. */
export function badNormals(primitive: Primitive, blobs: Blobs): number {
  if (!primitive.attributes.NORMAL) return primitive.attributes.POSITION?.count ?? 0;
  const normals = readArray<Float32Array>(blobs, primitive.attributes.NORMAL);
  let bad = 0;
  for (let i = 0; i < normals.length; i += 3) if (!(Math.abs(Math.hypot(normals[i], normals[i + 1], normals[i + 2]) - 1) < 1e-3)) bad++;
  return bad;
}

/**
 * Normals anew: a corner takes the mean of the faces about its point that lean less than `angleDegrees` from its own face,
 * weighted by the angle of the corner (Thürmer & Wüthrich 1998). Vertices are split where the corners of one differ.
 *
 * @param groups A smoothing group for each triangle, where a file has them: faces of one group are smooth whatever their angle,
 *   others are not, and 0 is flat.
 */
export function recomputeNormals(primitive: Primitive, angleDegrees: number, blobs: Blobs, groups?: ArrayLike<number>): Primitive {
  if (!primitive.attributes.POSITION) return primitive;
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const faces = triangleNormals(positions, indices);
  const around = cornersByPoint(positions, indices);
  const limit = Math.cos((angleDegrees * Math.PI) / 180);

  const sourceOf: number[] = [];
  const normals: number[] = [];
  const made = new Map<string, number>();
  const next = new Uint32Array(indices.length);
  for (let corner = 0; corner < indices.length; corner++) {
    const face = Math.floor(corner / 3);
    const n = [0, 0, 0];
    for (const other of around(corner)) {
      const g = Math.floor(other / 3);
      const dot = faces[3 * face] * faces[3 * g] + faces[3 * face + 1] * faces[3 * g + 1] + faces[3 * face + 2] * faces[3 * g + 2];
      if (g !== face && (groups ? groups[g] === 0 || groups[g] !== groups[face] : dot < limit)) continue;
      const weight = cornerAngle(positions, indices, other);
      for (let axis = 0; axis < 3; axis++) n[axis] += weight * faces[3 * g + axis];
    }
    const length = Math.hypot(n[0], n[1], n[2]);
    const unit = length > 1e-12 ? n.map((value) => value / length) : [0, 1, 0];
    const key = `${indices[corner]}/${unit.map((value) => Math.round(value * 1e4)).join('/')}`;
    let vertex = made.get(key);
    if (vertex === undefined) {
      vertex = sourceOf.length;
      made.set(key, vertex);
      sourceOf.push(indices[corner]);
      normals.push(...unit);
    }
    next[corner] = vertex;
  }
  const attributes: Record<string, Accessor> = {};
  for (const [semantic, accessor] of Object.entries(primitive.attributes)) {
    if (semantic !== 'NORMAL' && semantic !== 'TANGENT') attributes[semantic] = gatherRows(blobs, accessor, sourceOf);
  }
  attributes.NORMAL = putArray(blobs, Float32Array.from(normals), 3);
  const result: Primitive = { ...primitive, attributes, indices: putArray(blobs, next, 1) };
  // What targets add to the old normals means nothing for the new ones.
  if (primitive.targets)
    result.targets = primitive.targets.map((target): Record<string, Accessor> =>
      target.POSITION ? { POSITION: gatherRows(blobs, target.POSITION, sourceOf) } : {},
    );
  return result;
}

/** The rows of an array that are named, in that order. */
export function gatherRows(blobs: Blobs, accessor: Accessor, rows: ArrayLike<number>): Accessor {
  const source = readArray(blobs, accessor);
  const out = new (source.constructor as Float32ArrayConstructor)(rows.length * accessor.size);
  for (let i = 0; i < rows.length; i++)
    out.set(source.subarray(rows[i] * accessor.size, (rows[i] + 1) * accessor.size) as Float32Array, i * accessor.size);
  return putArray(blobs, out, accessor.size);
}

/** For a corner: all corners at the same point in space, whatever vertex they use. */
function cornersByPoint(positions: Float32Array, indices: Uint32Array): (corner: number) => number[] {
  const pointKey = (corner: number) => {
    const p = 3 * indices[corner];
    return `${positions[p] + 0},${positions[p + 1] + 0},${positions[p + 2] + 0}`;
  };
  const lists = new Map<string, number[]>();
  for (let corner = 0; corner < indices.length; corner++) {
    const key = pointKey(corner);
    const list = lists.get(key);
    if (list) list.push(corner);
    else lists.set(key, [corner]);
  }
  return (corner) => lists.get(pointKey(corner))!;
}

function cornerAngle(positions: Float32Array, indices: Uint32Array, corner: number): number {
  const base = corner - (corner % 3);
  const at = 3 * indices[corner];
  const one = 3 * indices[base + ((corner + 1) % 3)];
  const two = 3 * indices[base + ((corner + 2) % 3)];
  const u = [0, 1, 2].map((axis) => positions[one + axis] - positions[at + axis]);
  const v = [0, 1, 2].map((axis) => positions[two + axis] - positions[at + axis]);
  const lengths = Math.hypot(u[0], u[1], u[2]) * Math.hypot(v[0], v[1], v[2]);
  if (lengths === 0) return 0;
  return Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / lengths)));
}

/** Normals of the vertices as they are, each the sum of its faces' by area; of the shape that morph weights give. Nothing is split. */
export function smoothNormals(primitive: Primitive, weights: ArrayLike<number>, blobs: Blobs): Float32Array {
  return areaNormals(morphed(primitive, weights, blobs), readArray<Uint32Array>(blobs, primitive.indices));
}

/** A primitive without the vertices that no triangle uses; the others keep their order. */
export function dropUnused(primitive: Primitive, blobs: Blobs): Primitive {
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const used = new Uint8Array(primitive.attributes.POSITION?.count ?? 0);
  for (let i = 0; i < indices.length; i++) used[indices[i]] = 1;
  const rows: number[] = [];
  const placeOf = new Uint32Array(used.length);
  for (let v = 0; v < used.length; v++) if (used[v]) placeOf[v] = rows.push(v) - 1;
  if (rows.length === used.length) return primitive;
  const gather = (all: Record<string, Accessor>) =>
    Object.fromEntries(Object.entries(all).map(([semantic, accessor]) => [semantic, gatherRows(blobs, accessor, rows)]));
  const made: Primitive = {
    ...primitive,
    attributes: gather(primitive.attributes),
    indices: putArray(
      blobs,
      indices.map((vertex) => placeOf[vertex]),
      1,
    ),
  };
  if (primitive.targets) made.targets = primitive.targets.map(gather);
  return made;
}
