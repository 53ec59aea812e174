import type { Vec3 } from '../document';

/** Arithmetic of three numbers at a time, in doubles. */

export const subtract = (a: ArrayLike<number>, b: ArrayLike<number>): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** The dot product of two vectors of three. */
export const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Upright on both, in the order of a right hand; as long as the area between them. */
export const cross = (a: ArrayLike<number>, b: ArrayLike<number>): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/**
 * Unit normals at places, 3 numbers each: of the triangles around, by their area; 0 where there are none.
 *
 * @param positions 3 numbers a place @param corners The place of each corner, 3 a triangle
 */
export function areaNormals(positions: ArrayLike<number>, corners: ArrayLike<number>): Float32Array {
  const out = new Float32Array(positions.length);
  for (let t = 0; t + 2 < corners.length; t += 3) {
    const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]];
    const [ux, uy, uz] = [positions[b] - positions[a], positions[b + 1] - positions[a + 1], positions[b + 2] - positions[a + 2]];
    const [vx, vy, vz] = [positions[c] - positions[a], positions[c + 1] - positions[a + 1], positions[c + 2] - positions[a + 2]];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    for (const at of [a, b, c]) {
      out[at] += nx;
      out[at + 1] += ny;
      out[at + 2] += nz;
    }
  }
  for (let i = 0; i < out.length; i += 3) {
    const length = Math.hypot(out[i], out[i + 1], out[i + 2]);
    if (length > 0) for (let axis = 0; axis < 3; axis++) out[i + axis] /= length;
  }
  return out;
}
