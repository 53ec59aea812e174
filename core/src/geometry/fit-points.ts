import { applyMat3, mat3FromQuat, normalizeQuat, type Mat4 } from './linear';
import type { Quat, Vec3 } from '../document';

/**
 * The turn, uniform scale and move that take one list of points onto another of the same length, by least squares
 * (Horn 1987, “Closed-form solution of absolute orientation using unit quaternions”). Null where they are too few, all at
 * one place, or do not fit within `tolerance` of their size.
 */
export function fitPoints(from: ArrayLike<number>, to: ArrayLike<number>, tolerance = 1e-4): Mat4 | null {
  const n = from.length / 3;
  if (from.length !== to.length || n < 3) return null;
  const [a, b] = [centreOf(from), centreOf(to)];
  const s = new Float64Array(9);
  let spreadFrom = 0;
  let spreadTo = 0;
  for (let i = 0; i < from.length; i += 3) {
    for (let row = 0; row < 3; row++) {
      const p = from[i + row] - a[row];
      spreadFrom += p * p;
      spreadTo += (to[i + row] - b[row]) ** 2;
      for (let column = 0; column < 3; column++) s[3 * row + column] += p * (to[i + column] - b[column]);
    }
  }
  if (!(spreadFrom > 0) || !(spreadTo > 0)) return null;
  const q = largestEigenvector(s);
  const scale = Math.sqrt(spreadTo / spreadFrom);
  const linear = mat3FromQuat(q).map((value) => value * scale);
  const moved = applyMat3(linear, a);
  const move: Vec3 = [b[0] - moved[0], b[1] - moved[1], b[2] - moved[2]];
  const limit = tolerance * Math.sqrt(spreadTo / n);
  for (let i = 0; i < from.length; i += 3) {
    const p = applyMat3(linear, [from[i], from[i + 1], from[i + 2]]);
    if (Math.hypot(p[0] + move[0] - to[i], p[1] + move[1] - to[i + 1], p[2] + move[2] - to[i + 2]) > limit) return null;
  }
  return Float64Array.from([
    linear[0],
    linear[1],
    linear[2],
    0,
    linear[3],
    linear[4],
    linear[5],
    0,
    linear[6],
    linear[7],
    linear[8],
    0,
    ...move,
    1,
  ]);
}

function centreOf(points: ArrayLike<number>): Vec3 {
  const sum: Vec3 = [0, 0, 0];
  for (let i = 0; i < points.length; i++) sum[i % 3] += points[i];
  return sum.map((value) => (3 * value) / points.length) as Vec3;
}

/** Of Horn's symmetric 4 × 4 matrix, by Jacobi's rotations; as a quaternion x, y, z, w. */
function largestEigenvector(s: Float64Array): Quat {
  const [xx, xy, xz, yx, yy, yz, zx, zy, zz] = s;
  const m = [
    [xx + yy + zz, yz - zy, zx - xz, xy - yx],
    [yz - zy, xx - yy - zz, xy + yx, zx + xz],
    [zx - xz, xy + yx, yy - xx - zz, yz + zy],
    [xy - yx, zx + xz, yz + zy, zz - xx - yy],
  ];
  const v = [0, 1, 2, 3].map((i) => [0, 1, 2, 3].map((j): number => (i === j ? 1 : 0)));
  for (let sweep = 0; sweep < 50; sweep++) {
    for (let p = 0; p < 3; p++) {
      for (let q = p + 1; q < 4; q++) {
        if (Math.abs(m[p][q]) < 1e-300) continue;
        const theta = (m[q][q] - m[p][p]) / (2 * m[p][q]);
        const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.hypot(theta, 1));
        const c = 1 / Math.hypot(t, 1);
        const sine = t * c;
        for (let k = 0; k < 4; k++) [m[k][p], m[k][q]] = [c * m[k][p] - sine * m[k][q], sine * m[k][p] + c * m[k][q]];
        for (let k = 0; k < 4; k++) [m[p][k], m[q][k]] = [c * m[p][k] - sine * m[q][k], sine * m[p][k] + c * m[q][k]];
        for (let k = 0; k < 4; k++) [v[k][p], v[k][q]] = [c * v[k][p] - sine * v[k][q], sine * v[k][p] + c * v[k][q]];
      }
    }
  }
  const best = [0, 1, 2, 3].reduce((most, i) => (m[i][i] > m[most][most] ? i : most), 0);
  return normalizeQuat([v[1][best], v[2][best], v[3][best], v[0][best]]);
}
