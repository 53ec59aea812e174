import type { Blobs, Id, Kit, Vec3 } from '../document';
import { emptyBounds, growBounds, isEmptyBounds } from '../geometry';
import { triangleCorners } from './walk-world';

/** What stands this much above where somebody sits is a back, metres. */
const BACK = 0.1;
/** A back whose middle is nearer to the middle of the whole than this share of its depth says nothing. */
const LOPSIDED = 0.05;

/** Where on a part somebody sits, and which way they look. */
export interface SittingPlace {
  /** World, metres. */
  at: Vec3;
  /** x and z of a direction on the ground. */
  faces: [number, number];
}

/** The height at which a plumb line meets a triangle; null where it passes beside it. @param c Nine numbers. */
export function plumbHeight(c: ArrayLike<number>, x: number, z: number): number | null {
  const d = (c[5] - c[8]) * (c[0] - c[6]) + (c[6] - c[3]) * (c[2] - c[8]);
  if (Math.abs(d) < 1e-15) return null;
  const u = ((c[5] - c[8]) * (x - c[6]) + (c[6] - c[3]) * (z - c[8])) / d;
  const v = ((c[8] - c[2]) * (x - c[6]) + (c[0] - c[6]) * (z - c[8])) / d;
  const w = 1 - u - v;
  return Math.min(u, v, w) < -1e-9 ? null : u * c[1] + v * c[4] + w * c[7];
}

/**
 * Where a part can be sat on: over the middle of it, on the highest of its faces there; facing away from what stands up behind.
 *
 * @param vertices Of the part in the world, three numbers each; where it shows nothing, they sit at its pivot.
 */
export function sittingPlace(kit: Kit, blobs: Blobs, part: Id, vertices: Float64Array): SittingPlace {
  const bounds = emptyBounds();
  growBounds(bounds, vertices);
  if (isEmptyBounds(bounds)) return { at: [0, 0, 0], faces: [0, 1] };
  const [x, z] = [0, 2].map((axis) => (bounds.min[axis] + bounds.max[axis]) / 2);
  const corners = triangleCorners(kit, blobs, kit.parts[part]);
  const triangle = new Float64Array(9);
  let y = -Infinity;
  for (let t = 0; t < corners.length; t += 3) {
    for (let k = 0; k < 9; k++) triangle[k] = vertices[3 * corners[t + Math.floor(k / 3)] + (k % 3)];
    const height = plumbHeight(triangle, x, z);
    if (height !== null && height > y) y = height;
  }
  if (y === -Infinity) y = bounds.min[1];
  let [bx, bz, n] = [0, 0, 0];
  for (let i = 0; i < vertices.length; i += 3) {
    if (vertices[i + 1] < y + BACK) continue;
    bx += vertices[i] - x;
    bz += vertices[i + 2] - z;
    n++;
  }
  const size = Math.max(bounds.max[0] - bounds.min[0], bounds.max[2] - bounds.min[2]);
  const back = n > 0 ? [bx / n, bz / n] : [0, 0];
  const far = Math.hypot(back[0], back[1]);
  return { at: [x, y, z], faces: far > LOPSIDED * size ? [-back[0] / far, -back[1] / far] : [0, 1] };
}
