import type { Binding, BindingRow, PoseDelta } from '../document';
import { sortedRows } from './sorted-rows';

/** A table that goes in curves, as it is asked for: rows ascending, nine numbers each (offset, turn, size) and how fast these go there. */
interface TableCurve {
  values: Float64Array;
  poses: Float64Array;
  /** Per unit of the variable. */
  slopes: Float64Array;
}

const WIDTH = 9;
const CHANNELS = ['offset', 'turn', 'size'] as const;

const made = new WeakMap<readonly BindingRow[], Partial<Record<Binding['outside'], TableCurve>>>();

/** The curve through a table’s rows; made once for each table. */
export function curveOf(rows: readonly BindingRow[], outside: Binding['outside']): TableCurve {
  let own = made.get(rows);
  if (!own) made.set(rows, (own = {}));
  return (own[outside] ??= makeCurve(rows, outside));
}

/**
 * How fast a number goes at a place between two stretches, so that it never overshoots: the weighted harmonic mean of both slopes, 0 where
 * it turns back (Fritsch & Butland 1984, “A method for constructing local monotone piecewise cubic interpolants”).
 *
 * @param before Slope of the stretch before @param wide How wide that is @param after Slope of the one after @param far How wide it is
 */
export function monotoneSlope(before: number, wide: number, after: number, far: number): number {
  if (before * after <= 0) return 0;
  const [a, b] = [2 * far + wide, far + 2 * wide];
  return (a + b) / (a / before + b / after);
}

/** Rows that stand as good as at one value would be steeper than any number: there a curve lies flat. */
const finite = (slope: number): number => (Number.isFinite(slope) ? slope : 0);

/** What comes beyond the ends is as if there were rows: it stays, goes on as it went, or begins again. */
function makeCurve(rows: readonly BindingRow[], outside: Binding['outside']): TableCurve {
  const sorted = sortedRows(rows);
  const count = sorted.length;
  const values = Float64Array.from(sorted, ({ value }) => value);
  const poses = new Float64Array(WIDTH * count);
  const slopes = new Float64Array(WIDTH * count);
  sorted.forEach((row, i) => CHANNELS.forEach((of, k) => poses.set(row[of], WIDTH * i + 3 * k)));
  const widthOf = (i: number) => values[i + 1] - values[i];
  const secant = (i: number, c: number) => (poses[WIDTH * (i + 1) + c] - poses[WIDTH * i + c]) / widthOf(i);
  const last = count - 2;
  const beyond = (c: number, at: number, other: number) => {
    if (outside === 'clamp') return 0;
    return secant(outside === 'wrap' ? other : at, c);
  };
  for (let i = 0; i < count && count > 1; i++)
    for (let c = 0; c < WIDTH; c++) {
      const said = sorted[i].slope?.[CHANNELS[Math.floor(c / 3)]][c % 3];
      const before = i > 0 ? secant(i - 1, c) : beyond(c, 0, last);
      const after = i <= last ? secant(i, c) : beyond(c, last, 0);
      const wide = i > 0 ? widthOf(i - 1) : widthOf(outside === 'wrap' ? last : 0);
      const far = i <= last ? widthOf(i) : widthOf(outside === 'wrap' ? 0 : last);
      slopes[WIDTH * i + c] = finite(said ?? monotoneSlope(before, wide, after, far));
    }
  return { values, poses, slopes };
}

/** Where in a table a value lies, and beyond it by how much. */
const where = { row: 0, share: 0, width: 0, over: 0 };

function seekIn({ values }: TableCurve, outside: Binding['outside'], value: number): typeof where {
  const count = values.length;
  const [first, last] = [values[0], values[count - 1]];
  where.row = value === Infinity ? count - 1 : 0;
  where.share = where.width = where.over = 0;
  if (count === 1 || !Number.isFinite(value)) return where;
  let v = value;
  if (outside === 'wrap') v = first + ((((value - first) % (last - first)) + (last - first)) % (last - first));
  if (v <= first || v >= last) {
    where.row = v <= first ? 0 : count - 1;
    where.over = outside === 'extend' ? v - values[where.row] : 0;
    return where;
  }
  let [low, high] = [0, count - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (values[middle] <= v) low = middle;
    else high = middle;
  }
  where.row = low;
  where.width = values[low + 1] - values[low];
  where.share = (v - values[low]) / where.width;
  return where;
}

/** One of the nine numbers, by cubic Hermite between two rows; straight on beyond the ends where the table goes on. */
function numberAt({ poses, slopes }: TableCurve, { row, share: u, width, over }: typeof where, c: number): number {
  const at = WIDTH * row + c;
  if (width === 0 || u === 0) return over === 0 ? poses[at] : poses[at] + over * slopes[at];
  const next = at + WIDTH;
  const rest = 1 - u;
  return (
    poses[at] * (1 + 2 * u) * rest * rest +
    poses[next] * u * u * (3 - 2 * u) +
    width * (slopes[at] * u * rest * rest - slopes[next] * u * u * rest)
  );
}

/** How fast one of the numbers goes there, per unit of the variable. */
function slopeAt({ poses, slopes }: TableCurve, { row, share: u, width }: typeof where, c: number): number {
  const at = WIDTH * row + c;
  if (width === 0 || u === 0) return slopes[at];
  const next = at + WIDTH;
  return (6 * u * (1 - u) * (poses[next] - poses[at])) / width + slopes[at] * (1 - u) * (1 - 3 * u) + slopes[next] * u * (3 * u - 2);
}

/** Puts what a curve gives at a value into nine numbers: offset, turn, size. Allocates nothing. */
export function curveInto(curve: TableCurve, outside: Binding['outside'], value: number, out: Float64Array): void {
  const there = seekIn(curve, outside, value);
  for (let c = 0; c < WIDTH; c++) out[c] = numberAt(curve, there, c);
}

const scratch = new Float64Array(WIDTH);
const poseOf = (numbers: ArrayLike<number>): PoseDelta => {
  const three = (from: number): [number, number, number] => [numbers[from], numbers[from + 1], numbers[from + 2]];
  return { offset: three(0), turn: three(3), size: three(6) };
};

/** The pose that a curve gives at a value. */
export function curvePose(rows: readonly BindingRow[], outside: Binding['outside'], value: number): PoseDelta {
  curveInto(curveOf(rows, outside), outside, value, scratch);
  return poseOf(scratch);
}

/** How fast the pose goes at a value, per unit of the variable: of offset, turn and size. */
export function curveSlope(rows: readonly BindingRow[], outside: Binding['outside'], value: number): PoseDelta {
  const curve = curveOf(rows, outside);
  const there = seekIn(curve, outside, value);
  return poseOf(Array.from({ length: WIDTH }, (_, c) => finite(slopeAt(curve, there, c))));
}
