import type { Binding, BindingRow, PoseDelta, Vec3 } from '../document';
import type { Pose } from '../geometry';
import { curveInto, curveOf, curvePose } from './table-curve';

export { sortedRows } from './sorted-rows';

/** What a table is asked for by. */
export type AskedTable = Pick<Binding, 'outside' | 'between'> & { rows: readonly BindingRow[] };

/** The two rows about a value, and how far it is from the one to the other. */
interface Between {
  low: BindingRow;
  high: BindingRow;
  share: number;
}

const between: Between = { low: undefined!, high: undefined!, share: 0 };

/** Of rows at one value the later one in the table counts; of no rows null. Allocates nothing: the same object is given each time. */
function rowsAbout({ rows, outside }: AskedTable, value: number): Between | null {
  if (rows.length === 0) return null;
  let first = rows[0];
  let last = rows[0];
  for (const row of rows) {
    if (row.value <= first.value) first = row;
    if (row.value >= last.value) last = row;
  }
  between.low = between.high = value === Infinity ? last : first;
  between.share = 0;
  if (first.value === last.value || !Number.isFinite(value)) return between;
  let v = value;
  if (outside === 'wrap') v = first.value + modulo(value - first.value, last.value - first.value);
  else if (outside === 'clamp') v = Math.max(first.value, Math.min(last.value, value));
  // Beyond either end the two rows there go on.
  const from = Math.max(v, first.value);
  let low: BindingRow | null = null;
  let high: BindingRow | null = null;
  for (const row of rows) {
    if (from < last.value ? row.value <= from : row.value < last.value) {
      if (low === null || row.value >= low.value) low = row;
    } else if (high === null || row.value <= high.value) high = row;
  }
  between.low = low!;
  between.high = high!;
  between.share = (v - low!.value) / (high!.value - low!.value);
  return between;
}

/**
 * The pose that a binding gives at a value: straight between the two rows about it, or along a curve through all rows that overshoots none
 * of them (`table-curve.ts`). Of what is no number (a simulator may send such) it is that of an end row: of the first, or of the last for
 * infinity.
 *
 * Beyond the table: `clamp` stays at the end row; `extend` goes on along the last two rows, or as the curve went; `wrap` begins again at
 * the other end, the table's span being one round.
 */
export function evaluateBinding(binding: AskedTable, value: number): PoseDelta {
  if (binding.between === 'curve' && binding.rows.length > 1) return curvePose(binding.rows, binding.outside, value);
  const at = rowsAbout(binding, value);
  if (at === null) return { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };
  const { low, high, share } = at;
  if (low === high) return low;
  const mix = (a: Vec3, b: Vec3): Vec3 => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share];
  return { offset: mix(low.offset, high.offset), turn: mix(low.turn, high.turn), size: mix(low.size, high.size) };
}

function modulo(a: number, n: number): number {
  return ((a % n) + n) % n;
}

/** Adds what a binding gives at a value to a pose. Allocates nothing. @param index Of its part among those of the pose. */
export function addBindingPose(binding: AskedTable, value: number, index: number, pose: Pose): void {
  if (binding.between === 'curve' && binding.rows.length > 1) return addCurvePose(binding, value, index, pose);
  const at = rowsAbout(binding, value);
  if (at === null) return;
  const { low, high, share } = at;
  for (let axis = 0; axis < 3; axis++) {
    const i = 3 * index + axis;
    pose.offset[i] += low.offset[axis] + (high.offset[axis] - low.offset[axis]) * share;
    pose.turn[i] += low.turn[axis] + (high.turn[axis] - low.turn[axis]) * share;
    pose.size[i] *= low.size[axis] + (high.size[axis] - low.size[axis]) * share;
  }
}

const numbers = new Float64Array(9);

function addCurvePose({ rows, outside }: AskedTable, value: number, index: number, pose: Pose): void {
  curveInto(curveOf(rows, outside), outside, value, numbers);
  for (let axis = 0; axis < 3; axis++) {
    const i = 3 * index + axis;
    pose.offset[i] += numbers[axis];
    pose.turn[i] += numbers[3 + axis];
    pose.size[i] *= numbers[6 + axis];
  }
}
