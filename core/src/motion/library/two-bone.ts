import type { Quat, Vec3 } from '../../document';
import { cross, dot, subtract } from '../../geometry';

const along = (a: Vec3, b: Vec3, by: number): Vec3 => [a[0] + by * b[0], a[1] + by * b[1], a[2] + by * b[2]];
const unit = (a: Vec3): Vec3 => {
  const length = Math.hypot(...a) || 1;
  return [a[0] / length, a[1] / length, a[2] / length];
};

/**
 * Where the middle of two bones stands so that their end reaches a place: circle–circle intersection in the plane of the pole. Out of
 * reach, the end comes as near as it can.
 *
 * @param root Where the first bone begins. @param target Where the second one is to end. @param pole Which way the middle bends, a
 * direction.
 * @returns The middle, and where the end is.
 */
export function twoBone(root: Vec3, target: Vec3, upper: number, lower: number, pole: Vec3): { middle: Vec3; end: Vec3 } {
  const way = subtract(target, root);
  // A hair short of straight, so that the plane of the bend is kept.
  const far = Math.min(Math.hypot(...way), (upper + lower) * 0.9999);
  const reach = Math.max(far, Math.abs(upper - lower) + 1e-9);
  const d = unit(way);
  const side = unit(along(pole, d, -dot(pole, d)));
  const x = (upper * upper - lower * lower + reach * reach) / (2 * reach);
  const y = Math.sqrt(Math.max(0, upper * upper - x * x));
  return { middle: along(along(root, d, x), side, y), end: along(root, d, reach) };
}

/** The turn that takes one direction with its pole to another with its own: no twist about the bone but the pole's. */
export function turnBetween(fromDirection: Vec3, fromPole: Vec3, toDirection: Vec3, toPole: Vec3): Quat {
  const frame = (direction: Vec3, pole: Vec3) => {
    const a = unit(direction);
    const b = unit(along(pole, a, -dot(pole, a)));
    return [a, b, cross(a, b)];
  };
  const [from, to] = [frame(fromDirection, fromPole), frame(toDirection, toPole)];
  // R = Σ to_i · from_iᵀ, row by row.
  const r = (row: number, column: number) => to[0][row] * from[0][column] + to[1][row] * from[1][column] + to[2][row] * from[2][column];
  return quatOf(r);
}

/** Shepperd's method: the largest of the four is found first. */
function quatOf(r: (row: number, column: number) => number): Quat {
  const [a, b, c] = [r(0, 0), r(1, 1), r(2, 2)];
  const trace = a + b + c;
  let q: Quat;
  if (trace > Math.max(a, b, c)) {
    const s = 2 * Math.sqrt(1 + trace);
    q = [(r(2, 1) - r(1, 2)) / s, (r(0, 2) - r(2, 0)) / s, (r(1, 0) - r(0, 1)) / s, s / 4];
  } else if (a >= b && a >= c) {
    const s = 2 * Math.sqrt(1 + a - b - c);
    q = [s / 4, (r(0, 1) + r(1, 0)) / s, (r(0, 2) + r(2, 0)) / s, (r(2, 1) - r(1, 2)) / s];
  } else if (b >= c) {
    const s = 2 * Math.sqrt(1 + b - a - c);
    q = [(r(0, 1) + r(1, 0)) / s, s / 4, (r(1, 2) + r(2, 1)) / s, (r(0, 2) - r(2, 0)) / s];
  } else {
    const s = 2 * Math.sqrt(1 + c - a - b);
    q = [(r(0, 2) + r(2, 0)) / s, (r(1, 2) + r(2, 1)) / s, s / 4, (r(1, 0) - r(0, 1)) / s];
  }
  const length = Math.hypot(...q);
  return q.map((value) => value / length) as Quat;
}
