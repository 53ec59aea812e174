import type { Vec3 } from '../document';
import { cross, dot, subtract } from './vectors';

/** The circle through three points: its middle, the unit normal of its plane, its radius; null where they lie in a line. */
export function circleThrough(a: Vec3, b: Vec3, c: Vec3): { centre: Vec3; normal: Vec3; radius: number } | null {
  const u = subtract(b, a);
  const v = subtract(c, a);
  const n = cross(u, v);
  const square = dot(n, n);
  if (square <= 1e-18 * dot(u, u) * dot(v, v)) return null;
  // From a to the middle: (|v|²·n×u + |u|²·v×n) / 2|n|².
  const one = cross(n, u).map((value) => value * dot(v, v));
  const two = cross(v, n).map((value) => value * dot(u, u));
  const off = one.map((value, axis) => (value + two[axis]) / (2 * square)) as Vec3;
  const length = Math.sqrt(square);
  return {
    centre: a.map((value, axis) => value + off[axis]) as Vec3,
    normal: n.map((value) => value / length) as Vec3,
    radius: Math.hypot(...off),
  };
}
