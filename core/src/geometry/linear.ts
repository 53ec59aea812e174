/**
 * Linear algebra in doubles over gl-matrix. Matrices are column-major; mat4 has 16 numbers, mat3 has 9.
 */
import { glMatrix, mat3, mat4, quat, vec3, type ReadonlyMat4 } from 'gl-matrix';
import type { Axis, Quat, TurnOrder, Vec3 } from '../document';
import { cross, dot } from './vectors';

glMatrix.setMatrixArrayType(Array as unknown as Float32ArrayConstructor);

export type Mat4 = Float64Array;
export type Mat3 = number[];

const RADIANS = Math.PI / 180;

/** T·R·S as sixteen numbers by columns. */
export function composeMatrix(translation: Vec3, rotation: Quat, scale: Vec3): Mat4 {
  return mat4.fromRotationTranslationScale(new Float64Array(16) as unknown as mat4, rotation, translation, scale) as unknown as Mat4;
}

/** A·B: what B does first. */
export function multiplyMatrices(a: Mat4, b: Mat4): Mat4 {
  return mat4.multiply(new Float64Array(16) as unknown as mat4, a as ReadonlyMat4, b as ReadonlyMat4) as unknown as Mat4;
}

/** Null where the matrix flattens space. */
export function invertMatrix(a: Mat4): Mat4 | null {
  return mat4.invert(new Float64Array(16) as unknown as mat4, a as ReadonlyMat4) as unknown as Mat4 | null;
}

/** A point taken by an affine matrix. */
export function transformPoint(m: ArrayLike<number>, p: ArrayLike<number>): Vec3 {
  return [
    m[0] * p[0] + m[4] * p[1] + m[8] * p[2] + m[12],
    m[1] * p[0] + m[5] * p[1] + m[9] * p[2] + m[13],
    m[2] * p[0] + m[6] * p[1] + m[10] * p[2] + m[14],
  ];
}

/** The point that an affine matrix takes to another one, by Cramer's rule; null where the matrix is flat. */
export function pointBefore(m: ArrayLike<number>, p: ArrayLike<number>): Vec3 | null {
  const x = p[0] - m[12];
  const y = p[1] - m[13];
  const z = p[2] - m[14];
  // The columns crossed two by two.
  const ax = m[5] * m[10] - m[6] * m[9];
  const ay = m[6] * m[8] - m[4] * m[10];
  const az = m[4] * m[9] - m[5] * m[8];
  const determinant = m[0] * ax + m[1] * ay + m[2] * az;
  if (determinant === 0) return null;
  const bx = m[9] * m[2] - m[10] * m[1];
  const by = m[10] * m[0] - m[8] * m[2];
  const bz = m[8] * m[1] - m[9] * m[0];
  const cx = m[1] * m[6] - m[2] * m[5];
  const cy = m[2] * m[4] - m[0] * m[6];
  const cz = m[0] * m[5] - m[1] * m[4];
  return [(x * ax + y * ay + z * az) / determinant, (x * bx + y * by + z * bz) / determinant, (x * cx + y * cy + z * cz) / determinant];
}

/** M·v, of nine numbers by columns. */
export function applyMat3(m: Mat3, v: ArrayLike<number>): Vec3 {
  return [m[0] * v[0] + m[3] * v[1] + m[6] * v[2], m[1] * v[0] + m[4] * v[1] + m[7] * v[2], m[2] * v[0] + m[5] * v[1] + m[8] * v[2]];
}

/** A·B of nine numbers by columns: what B does first. */
export function multiplyMat3(a: Mat3, b: Mat3): Mat3 {
  return mat3.multiply([] as unknown as mat3, a as unknown as mat3, b as unknown as mat3) as unknown as Mat3;
}

/** The inverse, or null where there is none. */
export function invertMat3(a: Mat3): Mat3 | null {
  return mat3.invert([] as unknown as mat3, a as unknown as mat3) as unknown as Mat3 | null;
}

/** Rows and columns exchanged. */
export function transposeMat3(a: Mat3): Mat3 {
  return [a[0], a[3], a[6], a[1], a[4], a[7], a[2], a[5], a[8]];
}

/** How much a volume grows; below 0 where it is turned inside out. */
export function determinantMat3(a: Mat3): number {
  return mat3.determinant(a as unknown as mat3);
}

/** The matrix of a turn, by columns. */
export function mat3FromQuat(q: Quat): Mat3 {
  return mat3.fromQuat([] as unknown as mat3, q) as unknown as Mat3;
}

/** The matrix of a size along three axes. */
export function diagonalMat3(v: Vec3): Mat3 {
  return [v[0], 0, 0, 0, v[1], 0, 0, 0, v[2]];
}

/** The 4×4 matrix that is linear `m`, then moved by `t`. */
export function affineMatrix(m: Mat3, t: Vec3 = [0, 0, 0]): Mat4 {
  return new Float64Array([m[0], m[1], m[2], 0, m[3], m[4], m[5], 0, m[6], m[7], m[8], 0, t[0], t[1], t[2], 1]);
}

/** The turn b, then the turn a. */
export function multiplyQuats(a: Quat, b: Quat): Quat {
  return quat.multiply([0, 0, 0, 1], a, b) as Quat;
}

/** The turn the other way round. */
export function conjugateQuat(q: Quat): Quat {
  return [-q[0], -q[1], -q[2], q[3]];
}

/** The same turn of length 1; of length 0 where it has none. */
export function normalizeQuat(q: Quat): Quat {
  return quat.normalize([0, 0, 0, 1], q) as Quat;
}

/** A vector turned. */
export function rotateVector(q: Quat, v: Vec3): Vec3 {
  return vec3.transformQuat([0, 0, 0], v, q) as Vec3;
}

/** The least turn that brings one unit vector onto another; about any upright axis where they point against each other. */
export function quatBetween(from: Vec3, to: Vec3): Quat {
  const across = cross(from, to);
  // 1 + dot without the cancellation there is near −1: |from + to|² / 2.
  if (dot(from, to) > 0 || Math.hypot(...across) > 1e-9)
    return normalizeQuat([...across, Math.hypot(from[0] + to[0], from[1] + to[1], from[2] + to[2]) ** 2 / 2]);
  const least = from.map(Math.abs).indexOf(Math.min(...from.map(Math.abs)));
  return normalizeQuat([...cross(from, [0, 1, 2].map((axis) => (axis === least ? 1 : 0)) as Vec3), 0]);
}

/**
 * Angle between two rotations, degrees, 0 to 180: by both parts of the one that leads from one to the other, so that it is exact for small
 * angles and of quaternions that are not quite of length 1, as floats are (an arc cosine would make 0.05° of nothing there).
 */
export function angleBetweenQuats(a: Quat, b: Quat): number {
  const w = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
  const x = a[3] * b[0] - a[0] * b[3] - a[1] * b[2] + a[2] * b[1];
  const y = a[3] * b[1] - a[1] * b[3] - a[2] * b[0] + a[0] * b[2];
  const z = a[3] * b[2] - a[2] * b[3] - a[0] * b[1] + a[1] * b[0];
  return (2 * Math.atan2(Math.sqrt(x * x + y * y + z * z), Math.abs(w))) / RADIANS;
}

/** Shortest-path spherical interpolation (Shoemake 1985). */
export function slerpQuats(a: Quat, b: Quat, u: number): Quat {
  let dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
  const flip = dot < 0 ? -1 : 1;
  dot = Math.min(1, dot * flip);
  const angle = Math.acos(dot);
  const sine = Math.sin(angle);
  const from = sine < 1e-9 ? 1 - u : Math.sin((1 - u) * angle) / sine;
  const to = flip * (sine < 1e-9 ? u : Math.sin(u * angle) / sine);
  return a.map((value, c) => from * value + to * b[c]) as Quat;
}

const AXES_OF_ORDER: Record<TurnOrder, readonly [Axis, Axis, Axis]> = {
  xyz: [0, 1, 2],
  xzy: [0, 2, 1],
  yxz: [1, 0, 2],
  yzx: [1, 2, 0],
  zxy: [2, 0, 1],
  zyx: [2, 1, 0],
};

/** The axes of an order of turns, outermost first. */
export function turnAxes(order: TurnOrder): readonly [Axis, Axis, Axis] {
  return AXES_OF_ORDER[order];
}

/**
 * The rotation of turns about the own axes, multiplied in `order`.
 *
 * @param degrees Turn about x, y and z; any number of turns.
 */
export function quatFromTurn(degrees: ArrayLike<number>, order: TurnOrder): Quat {
  let result: Quat = [0, 0, 0, 1];
  for (const axis of turnAxes(order)) {
    const half = (degrees[axis] * RADIANS) / 2;
    const single: Quat = [0, 0, 0, Math.cos(half)];
    single[axis] = Math.sin(half);
    result = multiplyQuats(result, single);
  }
  return result;
}

/**
 * Turns about the own axes that make the rotation; the middle one within ±90°.
 * At the lock (middle turn ±90°) the last one is 0. After Shoemake, "Euler angle conversion", Graphics Gems IV (1994).
 */
export function turnFromQuat(q: Quat, order: TurnOrder): Vec3 {
  const [i, j, k] = turnAxes(order);
  const even = (i + 1) % 3 === j;
  const sign = even ? 1 : -1;
  const m = mat3FromQuat(q);
  const at = (row: number, column: number) => m[column * 3 + row];
  const middle = Math.asin(Math.max(-1, Math.min(1, sign * at(i, k))));
  const result: Vec3 = [0, 0, 0];
  result[j] = middle / RADIANS;
  if (Math.abs(at(i, k)) < 1 - 1e-12) {
    result[i] = Math.atan2(-sign * at(j, k), at(k, k)) / RADIANS;
    result[k] = Math.atan2(-sign * at(i, j), at(i, i)) / RADIANS;
  } else {
    result[i] = Math.atan2(sign * at(k, j), at(j, j)) / RADIANS;
  }
  return result.map((value) => value + 0) as Vec3;
}

/** The same turn with each angle moved by whole turns (or its flipped form) to lie nearest to `near`. */
export function turnNearest(q: Quat, order: TurnOrder, near: Vec3): Vec3 {
  const first = turnFromQuat(q, order);
  const [i, j, k] = turnAxes(order);
  const flipped: Vec3 = [0, 0, 0];
  flipped[i] = first[i] + 180;
  flipped[j] = 180 - first[j];
  flipped[k] = first[k] + 180;
  // Called for every sample of long clips: no lists are made on the way.
  let further = 0;
  for (let axis = 0; axis < 3; axis++) {
    first[axis] += 360 * Math.round((near[axis] - first[axis]) / 360);
    flipped[axis] += 360 * Math.round((near[axis] - flipped[axis]) / 360);
    further += Math.abs(first[axis] - near[axis]) - Math.abs(flipped[axis] - near[axis]);
  }
  return further <= 1e-9 ? first : flipped;
}

/** Splits a matrix without shear into translation, unit quaternion and scale (x negated where it mirrors). */
export function decomposeMatrix(m: Mat4): { translation: Vec3; rotation: Quat; scale: Vec3; shear: number } {
  const columns: Vec3[] = [0, 4, 8].map((c) => [m[c], m[c + 1], m[c + 2]]);
  const linear: Mat3 = columns.flat();
  const scale = columns.map((c) => Math.hypot(...c)) as Vec3;
  if (determinantMat3(linear) < 0) scale[0] = -scale[0];
  const rotation3 = columns.flatMap((c, axis) => c.map((value) => (scale[axis] === 0 ? 0 : value / scale[axis])));
  const dot = (a: number, b: number) => [0, 1, 2].reduce((sum, r) => sum + rotation3[a * 3 + r] * rotation3[b * 3 + r], 0);
  const shear = Math.max(Math.abs(dot(0, 1)), Math.abs(dot(0, 2)), Math.abs(dot(1, 2)));
  const rotation = normalizeQuat(quat.fromMat3([0, 0, 0, 1], rotation3 as unknown as mat3) as Quat);
  return { translation: [m[12], m[13], m[14]], rotation, scale, shear };
}

/** The most that a matrix makes any vector longer: its greatest singular value, by the eigenvalues of MᵀM (Smith, CACM 4 (4), 1961). */
export function greatestStretch(m: Mat3): number {
  const s = multiplyMat3(transposeMat3(m), m);
  const off = s[1] ** 2 + s[2] ** 2 + s[5] ** 2;
  if (off === 0) return Math.sqrt(Math.max(s[0], s[4], s[8]));
  const mean = (s[0] + s[4] + s[8]) / 3;
  const p = Math.sqrt(((s[0] - mean) ** 2 + (s[4] - mean) ** 2 + (s[8] - mean) ** 2 + 2 * off) / 6);
  const half = determinantMat3(s.map((value, i) => (value - (i % 4 === 0 ? mean : 0)) / p) as Mat3) / 2;
  return Math.sqrt(mean + 2 * p * Math.cos(Math.acos(Math.min(1, Math.max(-1, half))) / 3));
}

/** Turn and size of an affine matrix, without its place. */
export const linearPart = (m: ArrayLike<number>): Mat3 => [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]];

/** How much a matrix stretches the vector that it stretches most: its largest singular value, to a part in a thousand (power iteration). */
export function largestStretch(m: ArrayLike<number>): number {
  let [x, y, z] = [0.61, 0.53, 0.59];
  let length = 0;
  for (let i = 0; i < 12; i++) {
    const [a, b, c] = [m[0] * x + m[4] * y + m[8] * z, m[1] * x + m[5] * y + m[9] * z, m[2] * x + m[6] * y + m[10] * z];
    const [p, q, r] = [m[0] * a + m[1] * b + m[2] * c, m[4] * a + m[5] * b + m[6] * c, m[8] * a + m[9] * b + m[10] * c];
    const next = Math.sqrt(Math.hypot(p, q, r));
    if (next === 0) return 0;
    [x, y, z] = [p / next ** 2, q / next ** 2, r / next ** 2];
    if (Math.abs(next - length) < 1e-4 * next) return next;
    length = next;
  }
  return length;
}
