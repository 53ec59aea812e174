import type { BindingRow, PoseDelta } from '../document';
import { evaluateBinding, type AskedTable } from './evaluate-binding';
import { sortedRows } from './sorted-rows';
import { curveSlope } from './table-curve';

/** The pose that a table gives at a value, free to be changed. */
export function poseAt(table: AskedTable, value: number): PoseDelta {
  const { offset, turn, size } = evaluateBinding(table, value);
  return { offset: [...offset], turn: [...turn], size: [...size] };
}

/** The table’s rows and one at each of these values, posed as the table poses there already: nothing moves otherwise, in a curve either. */
export function withRows(table: AskedTable, values: readonly number[]): BindingRow[] {
  const { rows, outside, between } = table;
  const have = new Set(rows.map(({ value }) => value));
  const told = new Set(values.filter((value) => !have.has(value)));
  const added = [...told].map((value): BindingRow => ({ value, ...poseAt(table, value) }));
  if (between !== 'curve' || rows.length < 2) return [...rows, ...added];
  // What a curve chose by its neighbours is written down where these are others now.
  return sortedRows([...rows, ...added]).map((row, i, all) => {
    const beside = [row, all[i - 1], all[i + 1]].some((one) => one && told.has(one.value));
    return beside ? { ...row, slope: row.slope ?? curveSlope(rows, outside, row.value) } : row;
  });
}

/**
 * Rows that may be turned as vectors: how fast a curve goes is chosen number by number, and would be chosen otherwise along other axes, so
 * that it is written down first. As they are where the axes go to axes.
 *
 * @param turn Column-major.
 */
export function rowsToTurn(table: AskedTable, turn: readonly number[]): readonly BindingRow[] {
  const { rows, outside, between } = table;
  const alongAxes = [0, 3, 6].every((from) => turn.slice(from, from + 3).filter((value) => Math.abs(value) > 1e-9).length === 1);
  if (between !== 'curve' || rows.length < 2 || alongAxes) return rows;
  return rows.map((row) => ({ ...row, slope: row.slope ?? curveSlope(rows, outside, row.value) }));
}

/** Rows without slopes that somebody wrote down: where values are others, a curve chooses anew. */
export const withoutSlopes = (rows: readonly BindingRow[]): BindingRow[] =>
  rows.map(({ value, offset, turn, size }) => ({ value, offset, turn, size }));

/** Whether a table poses there as a row does. */
export function isPosed(table: AskedTable, row: BindingRow): boolean {
  const there = evaluateBinding(table, row.value);
  return (['offset', 'turn', 'size'] as const).every((of) => row[of].every((one, axis) => Math.abs(one - there[of][axis]) < 1e-9));
}

/** How far straight lines may be from a curve: metres, degrees, factors. */
const STRAIGHT_WITHIN = { offset: 1e-4, turn: 0.05, size: 1e-4 } as const;
const MOST_HALVINGS = 9;

/** A table of curves as rows between which it goes straight, within a tenth of a millimetre and a twentieth of a degree. */
export function straightRows(table: AskedTable): BindingRow[] {
  const rows = sortedRows(table.rows);
  const plain = (value: number): BindingRow => ({ value, ...poseAt(table, value) });
  const near = (low: BindingRow, high: BindingRow, share: number) => {
    const there = evaluateBinding(table, low.value + (high.value - low.value) * share);
    return (Object.keys(STRAIGHT_WITHIN) as (keyof typeof STRAIGHT_WITHIN)[]).every((of) =>
      there[of].every((one, axis) => Math.abs(low[of][axis] + (high[of][axis] - low[of][axis]) * share - one) < STRAIGHT_WITHIN[of]),
    );
  };
  const between = (low: BindingRow, high: BindingRow, depth: number): BindingRow[] => {
    if (depth === MOST_HALVINGS || [0.2, 0.5, 0.8].every((share) => near(low, high, share))) return [];
    const middle = plain((low.value + high.value) / 2);
    return [...between(low, middle, depth + 1), middle, ...between(middle, high, depth + 1)];
  };
  return withoutSlopes(rows.flatMap((row, i) => (i === 0 ? [row] : [...between(rows[i - 1], row, 0), row])));
}
