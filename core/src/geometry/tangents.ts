import { putArray, readArray, type Accessor, type Blobs, type Primitive } from '../document';
import { gatherRows } from './surfaces';

/** Two triangles of the same corner points have one number here. */
interface Corners {
  /** Of every corner: equal where position, normal and UV are. */
  point: Uint32Array;
  positions: Float32Array;
  normals: Float32Array;
  uvs: Float32Array;
  indices: Uint32Array;
}

/**
 * Tangents as every baker of normal maps works them out (MikkTSpace: Mikkelsen, “Simulation of Wrinkled Surfaces Revisited”, 2008), with
 * the sign that glTF wants. Vertices are split where the corners of one get different tangents.
 *
 * @param set The UV set that the normal map reads.
 * @returns the primitive itself where it has no normals or no such UVs.
 */
export function computeTangents(primitive: Primitive, set: number, blobs: Blobs): Primitive {
  const { POSITION, NORMAL, [`TEXCOORD_${set}`]: UV } = primitive.attributes;
  if (!POSITION || !NORMAL || !UV) return primitive;
  const corners = cornersOf(primitive, set, blobs);
  const tangents = cornerTangents(corners);
  const made = new Map<string, number>();
  const rows: number[] = [];
  const values: number[] = [];
  const next = new Uint32Array(corners.indices.length);
  for (let c = 0; c < next.length; c++) {
    const own = tangents.subarray(4 * c, 4 * c + 4);
    const key = `${corners.indices[c]}/${Math.round(own[0] * 1e5)}/${Math.round(own[1] * 1e5)}/${Math.round(own[2] * 1e5)}/${own[3]}`;
    let vertex = made.get(key);
    if (vertex === undefined) {
      made.set(key, (vertex = rows.push(corners.indices[c]) - 1));
      values.push(...own);
    }
    next[c] = vertex;
  }
  const gather = (all: Record<string, Accessor>) =>
    Object.fromEntries(Object.entries(all).map(([semantic, accessor]) => [semantic, gatherRows(blobs, accessor, rows)]));
  const result: Primitive = {
    ...primitive,
    attributes: { ...gather(primitive.attributes), TANGENT: putArray(blobs, Float32Array.from(values), 4) },
    indices: putArray(blobs, next, 1),
  };
  if (primitive.targets) result.targets = primitive.targets.map(gather);
  return result;
}

function cornersOf(primitive: Primitive, set: number, blobs: Blobs): Corners {
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const normals = readArray<Float32Array>(blobs, primitive.attributes.NORMAL);
  const uvs = readArray<Float32Array>(blobs, primitive.attributes[`TEXCOORD_${set}`]);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const known = new Map<string, number>();
  const pointOf = Uint32Array.from({ length: positions.length / 3 }, (_, v) => {
    const key = [
      positions[3 * v],
      positions[3 * v + 1],
      positions[3 * v + 2],
      normals[3 * v],
      normals[3 * v + 1],
      normals[3 * v + 2],
      uvs[2 * v],
      uvs[2 * v + 1],
    ].join();
    const point = known.get(key) ?? v;
    known.set(key, point);
    return point;
  });
  return { point: indices.map((vertex) => pointOf[vertex]), positions, normals, uvs, indices };
}

interface Faces {
  /** Direction of growing u on each triangle's plane, unit, 3 numbers. */
  along: Float64Array;
  /** 1 where UVs run the same way round as the triangle. */
  same: Uint8Array;
  /** 1 where UVs have no area, so that the triangle goes with any of its neighbours. */
  any: Uint8Array;
  /** 1 where two corners stand at one place. */
  flat: Uint8Array;
  /** The triangle across each edge, or −1. */
  across: Int32Array;
}

const TINY = 1.17549435e-38;

/** 4 numbers a corner. */
function cornerTangents(corners: Corners): Float32Array {
  const faces = facesOf(corners);
  const out = new Float32Array(4 * corners.point.length);
  for (let c = 0; c < corners.point.length; c++) out.set([1, 0, 0, 1], 4 * c);
  const groupOf = new Int32Array(corners.point.length).fill(-1);
  let groups = 0;
  for (let c = 0; c < corners.point.length; c++) {
    const face = Math.floor(c / 3);
    if (groupOf[c] >= 0 || faces.any[face] || faces.flat[face]) continue;
    const members = gatherGroup(corners, faces, groupOf, c, groups++);
    const tangent = meanTangent(corners, faces, members);
    // glTF's V runs down the picture, so that the sign of the bitangent is the other one.
    for (const member of members) out.set([...tangent, faces.same[face] ? -1 : 1], 4 * member);
  }
  lendToFlat(corners, faces, out);
  return out;
}

function facesOf({ point, positions, uvs, indices }: Corners): Faces {
  const count = Math.floor(indices.length / 3);
  const faces: Faces = {
    along: new Float64Array(3 * count),
    same: new Uint8Array(count),
    any: new Uint8Array(count).fill(1),
    flat: new Uint8Array(count),
    across: new Int32Array(3 * count).fill(-1),
  };
  const at = (c: number, axis: number) => positions[3 * indices[c] + axis];
  for (let f = 0; f < count; f++) {
    const c = 3 * f;
    const equal = (a: number, b: number) => [0, 1, 2].every((axis) => at(a, axis) === at(b, axis));
    if (equal(c, c + 1) || equal(c + 1, c + 2) || equal(c, c + 2)) {
      faces.flat[f] = 1;
      continue;
    }
    const [u0, v0, u1, v1, u2, v2] = [0, 1, 2].flatMap((k) => [uvs[2 * indices[c + k]], uvs[2 * indices[c + k] + 1]]);
    const area = (u1 - u0) * (v2 - v0) - (v1 - v0) * (u2 - u0);
    faces.same[f] = area > 0 ? 1 : 0;
    if (Math.abs(area) <= TINY) continue;
    const s: number[] = [];
    const t: number[] = [];
    for (let axis = 0; axis < 3; axis++) {
      const d1 = at(c + 1, axis) - at(c, axis);
      const d2 = at(c + 2, axis) - at(c, axis);
      s.push(d1 * (v2 - v0) - d2 * (v1 - v0));
      t.push(d2 * (u1 - u0) - d1 * (u2 - u0));
    }
    const length = Math.hypot(...s);
    if (length > TINY) s.forEach((value, axis) => (faces.along[c + axis] = ((area > 0 ? 1 : -1) * value) / length));
    if (length / Math.abs(area) > TINY && Math.hypot(...t) / Math.abs(area) > TINY) faces.any[f] = 0;
  }
  const edges = new Map<string, number>();
  for (let c = 0; c < 3 * count; c++) {
    if (faces.flat[Math.floor(c / 3)]) continue;
    const [a, b] = [point[c], point[c % 3 === 2 ? c - 2 : c + 1]];
    const other = edges.get(`${b}/${a}`);
    if (other !== undefined && faces.across[other] < 0) {
      faces.across[c] = Math.floor(other / 3);
      faces.across[other] = Math.floor(c / 3);
    } else if (!edges.has(`${a}/${b}`)) edges.set(`${a}/${b}`, c);
  }
  return faces;
}

/** Corners at one point that are reached from one another across edges, and whose UVs run the same way round. */
function gatherGroup({ point }: Corners, faces: Faces, groupOf: Int32Array, start: number, group: number): number[] {
  const members = [start];
  const same = faces.same[Math.floor(start / 3)];
  groupOf[start] = group;
  const stack = [start];
  while (stack.length > 0) {
    const c = stack.pop()!;
    const face = Math.floor(c / 3);
    for (const edge of [c, c % 3 === 0 ? c + 2 : c - 1]) {
      const other = faces.across[edge];
      if (other < 0) continue;
      const corner = [3 * other, 3 * other + 1, 3 * other + 2].find((one) => point[one] === point[start]);
      if (corner === undefined || groupOf[corner] >= 0 || other === face) continue;
      if (faces.any[other] && [0, 1, 2].every((k) => groupOf[3 * other + k] < 0)) faces.same[other] = same;
      if (faces.same[other] !== same) continue;
      groupOf[corner] = group;
      members.push(corner);
      stack.push(corner);
    }
  }
  return members;
}

/** Directions of growing u on the plane of the corner's normal, weighted by the angles of the corners there. */
function meanTangent({ positions, normals, indices }: Corners, faces: Faces, members: number[]): number[] {
  const sum = [0, 0, 0];
  for (const c of members) {
    const face = Math.floor(c / 3);
    if (faces.any[face]) continue;
    const n = [0, 1, 2].map((axis) => normals[3 * indices[c] + axis]);
    const onPlane = (v: number[]) => {
      const off = n[0] * v[0] + n[1] * v[1] + n[2] * v[2];
      const flat = v.map((value, axis) => value - n[axis] * off);
      const length = Math.hypot(...flat);
      return length > TINY ? flat.map((value) => value / length) : flat;
    };
    const edgeTo = (other: number) =>
      onPlane([0, 1, 2].map((axis) => positions[3 * indices[other] + axis] - positions[3 * indices[c] + axis]));
    const one = edgeTo(c % 3 === 0 ? c + 2 : c - 1);
    const two = edgeTo(c % 3 === 2 ? c - 2 : c + 1);
    const angle = Math.acos(Math.max(-1, Math.min(1, one[0] * two[0] + one[1] * two[1] + one[2] * two[2])));
    const along = onPlane([faces.along[3 * face], faces.along[3 * face + 1], faces.along[3 * face + 2]]);
    for (let axis = 0; axis < 3; axis++) sum[axis] += angle * along[axis];
  }
  const length = Math.hypot(...sum);
  return length > TINY ? sum.map((value) => value / length) : [1, 0, 0];
}

/** Triangles of no area take the tangents of what else stands at their corners. */
function lendToFlat({ point }: Corners, { flat }: Faces, out: Float32Array): void {
  const good = new Map<number, number>();
  for (let c = 0; c < point.length; c++) if (!flat[Math.floor(c / 3)] && !good.has(point[c])) good.set(point[c], c);
  for (let c = 0; c < point.length; c++) {
    const lender = flat[Math.floor(c / 3)] ? good.get(point[c]) : undefined;
    if (lender !== undefined) out.copyWithin(4 * c, 4 * lender, 4 * lender + 4);
  }
}
