import type { Vec3 } from '../document';

/** What each axis of the canonical space is called, its positive way first: +X left, +Y up, +Z forward. */
const WAYS = [
  ['left', 'right'],
  ['up', 'down'],
  ['forward', 'back'],
] as const;

/** A direction is said to go along an axis from this share of it on: half of an eighth of a turn off. */
const ALONG = Math.sin(Math.PI / 8);

/** A direction of the world in words, the most of it first: “up”, “forward and left”. Empty for one of no length. */
export function wayInWords(way: Vec3): string {
  const length = Math.hypot(...way);
  if (length === 0) return '';
  return [0, 1, 2]
    .map((axis) => ({ axis, share: way[axis] / length }))
    .filter(({ share }) => Math.abs(share) > ALONG)
    .sort((a, b) => Math.abs(b.share) - Math.abs(a.share) || a.axis - b.axis)
    .map(({ axis, share }) => WAYS[axis][share > 0 ? 0 : 1])
    .join(' and ');
}
