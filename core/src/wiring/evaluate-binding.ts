import type { Binding, BindingRow, Outside, PoseDelta } from '../document';
import type { Pose } from '../geometry';

/** Rows by value, ascending; of two rows at one value the later one in the table counts. */
export function sortedRows<Row extends { value: number }>(rows: readonly Row[]): Row[] {
  const byValue = new Map(rows.map((row) => [row.value, row]));
  return [...byValue.values()].sort((a, b) => a.value - b.value);
}

/**
 * The pose that a binding gives at a value: straight between the two rows about it. Of what is no number (a simulator may send such) it is
 * that of an end row: of the first, or of the last for infinity.
 *
 * Beyond the table: `clamp` stays at the end row; `extend` goes on along the last two rows; `wrap` begins again at the other
 * end, the table's span being one round.
 */
export function evaluateBinding(binding: { rows: readonly BindingRow[]; outside: Outside }, value: number): PoseDelta {
  const rows = sortedRows(binding.rows);
  if (rows.length === 0) return { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };
  if (rows.length === 1) return rows[0];
  const first = rows[0].value;
  const last = rows[rows.length - 1].value;
  if (!Number.isFinite(value)) return rows[value === Infinity ? rows.length - 1 : 0];
  let v = value;
  if (binding.outside === 'wrap') v = first + modulo(value - first, last - first);
  else if (binding.outside === 'clamp') v = Math.max(first, Math.min(last, value));
  let i = rows.findIndex((row) => row.value > v) - 1;
  if (i === -2) i = rows.length - 2;
  i = Math.max(0, Math.min(rows.length - 2, i));
  const u = (v - rows[i].value) / (rows[i + 1].value - rows[i].value);
  const mix = (a: number[], b: number[]) => a.map((x, axis) => x + (b[axis] - x) * u) as [number, number, number];
  return {
    offset: mix(rows[i].offset, rows[i + 1].offset),
    turn: mix(rows[i].turn, rows[i + 1].turn),
    size: mix(rows[i].size, rows[i + 1].size),
  };
}

function modulo(a: number, n: number): number {
  return ((a % n) + n) % n;
}

/** Adds a binding's pose to a part of a Pose. */
export function addBindingPose(binding: Binding, value: number, part: number, pose: Pose): void {
  const delta = evaluateBinding(binding, value);
  for (let axis = 0; axis < 3; axis++) {
    pose.offset[3 * part + axis] += delta.offset[axis];
    pose.turn[3 * part + axis] += delta.turn[axis];
    pose.size[3 * part + axis] *= delta.size[axis];
  }
}

/** One name for a variable with its index, as levers are kept. */
export function leverKey(variable: string, index: number | null): string {
  return index === null ? variable : `${variable}[${index}]`;
}
