import type { Vec3 } from '../../document';

/** Places between two points of a path. */
const PIECES = 64;
/** Places of the whole path at which its heading is known, and over how many of them on either side the turn is averaged. */
const GRID = 1024;
const WIDTH = 48;

/**
 * Centripetal Catmull–Rom through points (Catmull & Rom 1974; Yuksel, Schaefer & Keyser 2011), as a row of places close together.
 *
 * @param closed Whether it goes on from the last point to the first.
 */
export function pathThrough(points: readonly Vec3[], closed: boolean): Vec3[] {
  const n = points.length;
  const at = (i: number): Vec3 => {
    if (closed) return points[((i % n) + n) % n];
    if (i < 0) return points[0].map((value, k) => 2 * value - points[1][k]) as Vec3;
    if (i >= n) return points[n - 1].map((value, k) => 2 * value - points[n - 2][k]) as Vec3;
    return points[i];
  };
  const out: Vec3[] = [points[0]];
  for (let i = 0; i < (closed ? n : n - 1); i++) {
    const [p0, p1, p2, p3] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    const knot = (a: Vec3, b: Vec3) => Math.max(1e-9, Math.sqrt(Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])));
    const t1 = knot(p0, p1);
    const t2 = t1 + knot(p1, p2);
    const t3 = t2 + knot(p2, p3);
    const mix = (a: Vec3, b: Vec3, from: number, to: number, t: number) =>
      a.map((value, k) => (value * (to - t) + b[k] * (t - from)) / (to - from)) as Vec3;
    for (let piece = 1; piece <= PIECES; piece++) {
      const t = t1 + ((t2 - t1) * piece) / PIECES;
      const [a, b, c] = [mix(p0, p1, 0, t1, t), mix(p1, p2, t1, t2, t), mix(p2, p3, t2, t3, t)];
      out.push(mix(mix(a, b, 0, t2, t), mix(b, c, t1, t3, t), t1, t2, t));
    }
  }
  return out;
}

/** A path by how far one has come along it, metres. */
export interface Course {
  /** Its length. */
  whole: number;
  at: (way: number) => Vec3;
  /** Degrees about y from +z, without jumps; how fast it turns there, degrees a metre, averaged over a tenth of the path. */
  heading: (way: number) => number;
  bend: (way: number) => number;
}

/** @param path Places close together. @param closed Whether its end is its start. */
export function courseOf(path: readonly Vec3[], closed: boolean): Course {
  const along = [0];
  for (let i = 1; i < path.length; i++) along.push(along[i - 1] + Math.hypot(...path[i].map((value, k) => value - path[i - 1][k])));
  const whole = along[along.length - 1];
  // The way of a piece is that of its middle; going straight up or down is no new heading.
  const middles: number[] = [];
  const headings: number[] = [];
  for (let i = 1; i < path.length; i++) {
    const [x, , z] = path[i].map((value, k) => value - path[i - 1][k]);
    if (Math.hypot(x, z) < 1e-12) continue;
    const heading = (Math.atan2(x, z) * 180) / Math.PI;
    const before = headings[headings.length - 1] ?? heading;
    middles.push((along[i - 1] + along[i]) / 2);
    headings.push(heading + 360 * Math.round((before - heading) / 360));
  }
  if (headings.length > 1) {
    // Half a piece further at both ends, as it goes there.
    const beyond = (way: number, a: number, b: number) =>
      headings[a] + ((way - middles[a]) / (middles[b] - middles[a])) * (headings[b] - headings[a]);
    const n = headings.length;
    const [first, last] = [beyond(0, 0, 1), beyond(whole, n - 1, n - 2)];
    middles.splice(0, 0, 0);
    headings.splice(0, 0, first);
    middles.push(whole);
    headings.push(last);
  }
  const heading = (way: number) => (headings.length === 0 ? 0 : between(middles, headings, way));
  const step = whole / GRID;
  const onGrid = Array.from({ length: GRID + 1 }, (_, i) => heading(i * step));
  const round = closed ? onGrid[GRID] - onGrid[0] - rest(onGrid[GRID] - onGrid[0]) : 0;
  /** Beyond the ends a closed path goes on; another one turns as it does there. */
  const far = (i: number) => {
    if (closed) return onGrid[((i % GRID) + GRID) % GRID] + round * Math.floor(i / GRID);
    const end = i < 0 ? 0 : GRID - 1;
    return i >= 0 && i <= GRID ? onGrid[i] : onGrid[end] + (i - end) * (onGrid[end + 1] - onGrid[end]);
  };
  const turning = Array.from(
    { length: GRID + 1 + 2 * WIDTH },
    (_, i) => (far(i - WIDTH + WIDTH / 2) - far(i - WIDTH - WIDTH / 2)) / (WIDTH * step || 1),
  );
  const bends = Array.from({ length: GRID + 1 }, (_, i) => {
    let sum = 0;
    for (let k = -WIDTH / 2; k <= WIDTH / 2; k++) sum += turning[i + WIDTH + k];
    return sum / (WIDTH + 1);
  });
  const grid = onGrid.map((_, i) => i * step);
  return {
    whole,
    at: (way) => [0, 1, 2].map((k) => between(along, path, way, k)) as Vec3,
    heading,
    bend: (way) => between(grid, bends, way),
  };
}

/** What is left of a turn beyond whole ones, −180 to 180 degrees. */
const rest = (degrees: number) => degrees - 360 * Math.round(degrees / 360);

/** Straight between values that are known at ascending places; before the first and after the last they stay. */
function between(places: readonly number[], values: readonly number[], at: number): number;
function between(places: readonly number[], values: readonly Vec3[], at: number, axis: number): number;
function between(places: readonly number[], values: readonly number[] | readonly Vec3[], at: number, axis?: number): number {
  const value = (i: number) => (axis === undefined ? (values[i] as number) : (values[i] as Vec3)[axis]);
  let [low, high] = [0, places.length - 1];
  if (at <= places[low]) return value(low);
  if (at >= places[high]) return value(high);
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (places[middle] <= at) low = middle;
    else high = middle;
  }
  return value(low) + ((at - places[low]) / (places[high] - places[low])) * (value(high) - value(low));
}
