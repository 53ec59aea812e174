import type { HalfGrid } from './turned-cover';

/** A place beside an axis: how far from it, and where along it, metres. */
export type HalfPoint = readonly [radius: number, along: number];

/** What of a turn may be empty and still counts as shape. */
const THIN = 0.02;
/** Of the radius: how far an outline may be from the cells that it goes round. */
const OFF = 0.01;

/** Whole numbers of a corner of the grid. */
type Corner = readonly [column: number, row: number];

/**
 * The outlines of the cells that are covered for more than a fiftieth of the turn, as lines whose inside lies to their left, as seen with
 * the axis on the left and its end up; simplified to a hundredth of the radius (Douglas & Peucker 1973). One that reaches the axis begins
 * and ends there, any other one ends where it began. Hollows inside are left out: nobody sees them.
 */
export function outlinesOf(cover: ArrayLike<number>, { columns, rows, width, height, from }: HalfGrid): HalfPoint[][] {
  const inside = (column: number, row: number) =>
    column >= 0 && column < columns && row >= 0 && row < rows && cover[row * columns + column] > THIN;
  const next = new Map<string, Corner[]>();
  const edge = (a: Corner, b: Corner) => {
    const key = String(a);
    next.set(key, [...(next.get(key) ?? []), b]);
  };
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      if (!inside(column, row)) continue;
      if (!inside(column, row - 1)) edge([column, row], [column + 1, row]);
      if (!inside(column + 1, row)) edge([column + 1, row], [column + 1, row + 1]);
      if (!inside(column, row + 1)) edge([column + 1, row + 1], [column, row + 1]);
      // What lies on the axis is no surface.
      if (column > 0 && !inside(column - 1, row)) edge([column, row + 1], [column, row]);
    }
  const radius = columns * width;
  return [...chains(next)]
    .filter((chain) => areaOf(chain) > 0)
    .map((chain) => chain.map(([column, row]) => [column * width, from + row * height] as const))
    .map((line) => simplified(line, OFF * radius))
    .filter((line) => line.length > 2 || (line.length === 2 && line[0][0] === 0 && line[1][0] === 0));
}

/** Edges joined to chains: first those that begin on the axis, then rings. At a corner where two meet, the one that turns left. */
function* chains(next: Map<string, Corner[]>): Generator<Corner[]> {
  const ends = new Set([...next.values()].flat().map(String));
  const starts = [...next.keys()].filter((key) => !ends.has(key));
  for (const key of [...starts, ...next.keys()]) {
    while ((next.get(key) ?? []).length > 0) {
      const [column, row] = key.split(',').map(Number);
      const chain: Corner[] = [[column, row]];
      for (;;) {
        const at = chain.at(-1)!;
        const ways = next.get(String(at)) ?? [];
        if (ways.length === 0) break;
        const before = chain.at(-2);
        const left = ([c, r]: Corner) => (before ? (at[0] - before[0]) * (r - at[1]) - (at[1] - before[1]) * (c - at[0]) : 0);
        const way = ways.reduce((best, one) => (left(one) > left(best) ? one : best));
        ways.splice(ways.indexOf(way), 1);
        chain.push(way);
        if (String(way) === key) break;
      }
      yield chain;
    }
  }
}

/** Twice the area that a chain goes round, closed along the axis; below 0 for the edge of a hollow. */
const areaOf = (chain: readonly Corner[]) =>
  chain.reduce((sum, [x, y], i) => {
    const [nx, ny] = chain[(i + 1) % chain.length];
    return sum + x * ny - nx * y;
  }, 0);

/** Douglas & Peucker 1973; a ring is halved first where it is furthest from its beginning. */
function simplified(line: readonly HalfPoint[], off: number): HalfPoint[] {
  const [first, last] = [line[0], line.at(-1)!];
  if (first[0] !== last[0] || first[1] !== last[1]) return [...simplify(line, off), last];
  // A ring begins where it is furthest out, which is a corner of it whatever the rest is like.
  const ring = line.slice(0, -1);
  const outermost = ring.reduce((best, [r, h], i) => (r > ring[best][0] || (r === ring[best][0] && h < ring[best][1]) ? i : best), 0);
  const turned = [...ring.slice(outermost), ...ring.slice(0, outermost), ring[outermost]];
  const away = (i: number) => Math.hypot(turned[i][0] - turned[0][0], turned[i][1] - turned[0][1]);
  const half = turned.reduce((best, _, i) => (away(i) > away(best) ? i : best), 0);
  return [...simplify(turned.slice(0, half + 1), off), ...simplify(turned.slice(half), off), turned[0]];
}

/** Without its last point. */
function simplify(line: readonly HalfPoint[], off: number): HalfPoint[] {
  const [a, b] = [line[0], line.at(-1)!];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.hypot(dx, dy);
  let [worst, at] = [off, -1];
  line.forEach(([x, y], i) => {
    const away = length > 0 ? Math.abs(dx * (y - a[1]) - dy * (x - a[0])) / length : Math.hypot(x - a[0], y - a[1]);
    if (away > worst) [worst, at] = [away, i];
  });
  return at < 0 ? [a] : [...simplify(line.slice(0, at + 1), off), ...simplify(line.slice(at), off)];
}
