import {
  putArray,
  readArray,
  SECTION_LIST,
  type Accessor,
  type Axis,
  type Blobs,
  type Conforming,
  type Kit,
  type TurnOrder,
  type Vec3,
} from '../document';
import { applyMat3, determinantMat3, type Mat3 } from './linear';
import { axisMap, conformQuat, isIdentityChange, type Change } from './space';
import { transformMesh } from './transform-mesh';

/**
 * Puts a whole kit into other numbers: unit, up and forward axis, handedness. No scaled and no rotated root is left behind.
 *
 * With C the signed permutation and s the unit factor: T' = s·C·T, R' = C·R·Cᵀ, S' = |C|·S, vertices s·C·v, normals C·n,
 * inverse binds (s·C)·B·(s·C)⁻¹, tracks and binding rows likewise. Turns keep their angles; the order in which they are
 * multiplied goes along with the axes, so that several turns at once stay exact. Writes to the draft.
 */
export function conformKit(kit: Kit, change: Change, blobs: Blobs): void {
  if (isIdentityChange(change)) return;
  const to = conforming(change, blobs);
  for (const section of SECTION_LIST) section.conform(kit, to);
}

/** A change of space as the sections of the document use it. @param blobs Where arrays in the new numbers are put. */
export function conforming({ basis, scale }: Change, blobs: Blobs): Conforming {
  const linear = basis.map((value) => value * scale) as Mat3;
  const { to, sign } = axisMap(basis);
  const det = Math.sign(determinantMat3(basis));
  const permute = (v: ArrayLike<number>): Vec3 => {
    const out: Vec3 = [0, 0, 0];
    for (let axis = 0; axis < 3; axis++) out[to[axis]] = v[axis];
    return out;
  };
  return {
    scale,
    mirrored: det < 0,
    place: (v) => applyMat3(linear, v).map((value) => value + 0) as Vec3,
    turn: (v) => permute(v.map((value, axis) => det * sign[axis] * value + 0)),
    size: permute,
    rotation: (q) => conformQuat(q, basis),
    turnOrder: (order) => [...order].map((letter) => 'xyz'[to['xyz'.indexOf(letter)]]).join('') as TurnOrder,
    axis: (axis) => ({ to: to[axis] as Axis, sign: sign[axis] }),
    mesh: (mesh) => transformMesh(mesh, linear, [0, 0, 0], blobs),
    matrices: (rows) => mapRows(rows, 16, blobs, (row) => conformMatrix(row, basis, scale)),
    samples: (rows, property) => {
      const factors = { offset: sign.map((value) => scale * value), rotation: sign.map((value) => det * value), size: [1, 1, 1] }[property];
      return mapRows(rows, property === 'rotation' ? 4 : 3, blobs, (row) => {
        const out = Float32Array.from(row);
        for (let axis = 0; axis < 3; axis++) out[to[axis]] = factors[axis] * row[axis];
        return out;
      });
    },
  };
}

/** Each row of an array made another one. @param size Numbers a row. */
function mapRows(rows: Accessor, size: number, blobs: Blobs, map: (row: Float32Array) => ArrayLike<number>): Accessor {
  const out = readArray<Float32Array>(blobs, rows).slice();
  for (let i = 0; i < out.length; i += size) out.set(map(out.subarray(i, i + size)), i);
  return putArray(blobs, out, rows.size);
}

/** (s·C) · M · (s·C)⁻¹ for an affine matrix: C·L·Cᵀ in the linear block, s·C·t in the last column. */
function conformMatrix(m: ArrayLike<number>, basis: Mat3, scale: number): number[] {
  const { to, sign } = axisMap(basis);
  const out = new Array<number>(16).fill(0);
  for (let column = 0; column < 3; column++)
    for (let row = 0; row < 3; row++) out[4 * to[column] + to[row]] = sign[column] * sign[row] * m[4 * column + row];
  for (let row = 0; row < 3; row++) out[12 + to[row]] = scale * sign[row] * m[12 + row];
  out[15] = 1;
  return out;
}
