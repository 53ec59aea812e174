import { readArray, putArray, type Blobs, type Mesh, type Primitive } from '../document';
import { flippedTriangles, weldedPlaces } from './mesh-figures';
import { loosePieces, placesOf } from './mesh-graph';
import { outsidesOf } from './outsides';
import { recomputeNormals } from './surfaces';
import { wholeMesh } from './whole-mesh';

/**
 * Faces to be turned round so that neighbours run the same way and every loose piece shows its outside; one where no outside can be told
 * stays as most of it is.
 *
 * @returns 1 for each face of the mesh that has to be turned.
 */
export function facesToTurn(mesh: Mesh, blobs: Blobs): Uint8Array {
  return outsidesOf(mesh, blobs).turn;
}

/** What decides where an outside can't be told: the normals, and triangles are turned; or the triangles, and normals are turned. */
export const FOLLOWS = ['normals', 'triangles'] as const;
export type Follows = (typeof FOLLOWS)[number];

export interface WindingPlan {
  /** 1 for each face of the mesh that is turned round. */
  turn: Uint8Array;
  /** Triangles turned, and triangles whose normals are turned. */
  turned: number;
  normals: number;
  /** Triangles of pieces of which no outside can be told, and that run against their normals. */
  unclear: number;
}

/**
 * How windings and normals are brought together: of each piece its outside decides, found by volume or by sight, and normals follow.
 * Where it can't be told, pieces that agree with their normals stay.
 */
export function windingPlan(mesh: Mesh, blobs: Blobs, unclear: Follows): WindingPlan {
  const { turn: outward, pieces } = outsidesOf(mesh, blobs);
  const against = facesAgainst(mesh, blobs);
  const plan: WindingPlan = { turn: new Uint8Array(outward.length), turned: 0, normals: 0, unclear: 0 };
  for (const { faces, by } of pieces) {
    const wrong = faces.some((face) => against[face] === 1);
    // An open piece that agrees with its normals may be meant to be seen from within.
    if (!wrong && by !== 'volume') continue;
    if (wrong && by === 'unclear') plan.unclear += faces.length;
    for (const face of faces) {
      let turns = outward[face];
      if (by === 'unclear') turns = unclear === 'normals' ? against[face] : 0;
      plan.turn[face] = turns;
      plan.turned += turns;
      plan.normals += against[face] ^ turns;
    }
  }
  return plan;
}

/** A mesh with its windings and normals brought together by a plan. */
export function turnByPlan(mesh: Mesh, { turn }: WindingPlan, angleDegrees: number, blobs: Blobs): Mesh {
  const { starts } = wholeMesh(mesh, blobs);
  return {
    ...mesh,
    primitives: mesh.primitives.map((primitive, p) => {
      const made = turnNormals(turnFaces(primitive, turn.subarray(starts[p], starts[p + 1]), blobs), blobs);
      // A vertex that shades faces of both sides has no normal that looks along with all of them.
      return flippedTriangles(made, blobs) > 0 ? recomputeNormals(made, angleDegrees, blobs) : made;
    }),
  };
}

function turnFaces(primitive: Primitive, turn: Uint8Array, blobs: Blobs): Primitive {
  if (!turn.includes(1)) return primitive;
  const indices = readArray<Uint32Array>(blobs, primitive.indices).slice();
  turn.forEach((turned, face) => {
    if (turned) [indices[3 * face + 1], indices[3 * face + 2]] = [indices[3 * face + 2], indices[3 * face + 1]];
  });
  return { ...primitive, indices: putArray(blobs, indices, 1) };
}

/** Turns normals, and the sense of their tangents, that look against the faces about them, by their area. */
function turnNormals(primitive: Primitive, blobs: Blobs): Primitive {
  const { POSITION, NORMAL, TANGENT } = primitive.attributes;
  if (!NORMAL || flippedTriangles(primitive, blobs) === 0) return primitive;
  const positions = readArray<Float32Array>(blobs, POSITION);
  const normals = readArray<Float32Array>(blobs, NORMAL).slice();
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const along = new Float64Array(normals.length / 3);
  eachFace(positions, indices, (corners, area) => {
    for (const v of corners) along[v] += area[0] * normals[3 * v] + area[1] * normals[3 * v + 1] + area[2] * normals[3 * v + 2];
  });
  const tangents = TANGENT && readArray<Float32Array>(blobs, TANGENT).slice();
  along.forEach((value, v) => {
    if (value >= 0) return;
    for (let i = 3 * v; i < 3 * v + 3; i++) normals[i] = 0 - normals[i];
    if (tangents) tangents[4 * v + 3] *= -1;
  });
  const attributes: Primitive['attributes'] = { ...primitive.attributes, NORMAL: putArray(blobs, normals, 3) };
  if (tangents) attributes.TANGENT = putArray(blobs, tangents, 4);
  return { ...primitive, attributes };
}

/** Each face's corners and its normal, as long as twice its area. */
function eachFace(positions: ArrayLike<number>, indices: ArrayLike<number>, told: (corners: number[], area: number[]) => void): void {
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const corners = [indices[i], indices[i + 1], indices[i + 2]];
    const [a, b, c] = corners.map((v) => 3 * v);
    const u = [0, 1, 2].map((axis) => positions[b + axis] - positions[a + axis]);
    const v = [0, 1, 2].map((axis) => positions[c + axis] - positions[a + axis]);
    told(corners, [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]);
  }
}

/** 1 for each face of a mesh that runs against its corners' normals. */
function facesAgainst(mesh: Mesh, blobs: Blobs): Uint8Array {
  const { starts } = wholeMesh(mesh, blobs);
  const out = new Uint8Array(starts.at(-1)!);
  mesh.primitives.forEach(({ attributes, indices }, p) => {
    if (!attributes.NORMAL) return;
    const normals = readArray<Float32Array>(blobs, attributes.NORMAL);
    let face = starts[p];
    eachFace(readArray<Float32Array>(blobs, attributes.POSITION), readArray<Uint32Array>(blobs, indices), (corners, area) => {
      const along = [0, 1, 2].reduce((sum, k) => sum + area[k] * corners.reduce((own, v) => own + normals[3 * v + k], 0), 0);
      out[face++] = along < 0 ? 1 : 0;
    });
  });
  return out;
}

/** Of the areas of a closed piece, taken with their directions, less than this share is left. */
const CLOSED_SHARE = 1e-3;

/**
 * Triangles of a mesh that are shown from the wrong side: those that run against their normals, and those of closed solids that are inside
 * out, whatever their normals say.
 */
export function wrongSided(mesh: Mesh, blobs: Blobs): number {
  let flipped = 0;
  for (const primitive of mesh.primitives) flipped += flippedTriangles(primitive, blobs);
  if (!mayBeInsideOut(mesh, blobs)) return flipped;
  const { turned, normals } = windingPlan(mesh, blobs, 'normals');
  return Math.max(flipped, turned, normals);
}

/** Whether any piece might enclose less than nothing: a quick look that misses none. */
function mayBeInsideOut(mesh: Mesh, blobs: Blobs): boolean {
  const { positions, indices } = wholeMesh(mesh, blobs);
  const places = weldedPlaces(positions);
  const { pieceOf, pieces } = loosePieces(placesOf(indices, places));
  const volumes = new Float64Array(pieces);
  const sums = new Float64Array(4 * pieces);
  const [ox, oy, oz] = positions;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const a = 3 * indices[i];
    const b = 3 * indices[i + 1];
    const c = 3 * indices[i + 2];
    const x = positions[a];
    const y = positions[a + 1];
    const z = positions[a + 2];
    const ux = positions[b] - x;
    const uy = positions[b + 1] - y;
    const uz = positions[b + 2] - z;
    const vx = positions[c] - x;
    const vy = positions[c + 1] - y;
    const vz = positions[c + 2] - z;
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const piece = pieceOf[i / 3];
    volumes[piece] += nx * (x - ox) + ny * (y - oy) + nz * (z - oz);
    sums[4 * piece] += nx;
    sums[4 * piece + 1] += ny;
    sums[4 * piece + 2] += nz;
    sums[4 * piece + 3] += Math.sqrt(nx * nx + ny * ny + nz * nz);
  }
  for (let n = 0; n < pieces; n++) {
    const left = Math.hypot(sums[4 * n], sums[4 * n + 1], sums[4 * n + 2]);
    if (volumes[n] < 0 && left < CLOSED_SHARE * sums[4 * n + 3]) return true;
  }
  return false;
}
