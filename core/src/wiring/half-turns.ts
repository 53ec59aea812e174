import type { Axis, Binding, BindingRow, Vec3 } from '../document';
import { neutralOf } from './table-tools';
import { neutralFirst } from './binding-operations';
import { sortedRows } from './sorted-rows';

/** Two rows between which something turns by half a turn or more: of two ways it has none that is shorter. */
export interface HalfTurn {
  from: BindingRow;
  to: BindingRow;
  axis: Axis;
  degrees: number;
}

/** Where a table turns by 180° or more from one row to the next; the widest first. */
export function halfTurns({ rows }: Pick<Binding, 'rows'>): HalfTurn[] {
  const sorted = sortedRows(rows);
  const found = sorted.slice(1).flatMap((to, i) =>
    ([0, 1, 2] as Axis[]).map((axis) => {
      const from = sorted[i];
      return { from, to, axis, degrees: to.turn[axis] - from.turn[axis] };
    }),
  );
  return found.filter(({ degrees }) => Math.abs(degrees) >= 180).sort((a, b) => Math.abs(b.degrees) - Math.abs(a.degrees));
}

/** As far on as there is a shorter way, −180 (which counts) to 180 degrees. */
const shortest = (degrees: number): number => degrees - 360 * Math.floor((degrees + 180) / 360);

/**
 * Rows as a platform plays them that goes the short way between two, each turn by itself: from neutral on outward, so that neutral stays as
 * it is.
 */
export function rowsTheShortWay({ rows }: Pick<Binding, 'rows'>): BindingRow[] {
  if (rows.length === 0) return [];
  const neutral = neutralOf({ rows });
  const sorted = sortedRows(rows);
  const middle = sorted.findIndex(({ value }) => value === neutral);
  const turns: Vec3[] = sorted.map(({ turn }) => [...turn]);
  const follow = (i: number, before: number) => {
    turns[i] = turns[i].map((_, axis) => turns[before][axis] + shortest(sorted[i].turn[axis] - sorted[before].turn[axis])) as Vec3;
  };
  for (let i = middle + 1; i < sorted.length; i++) follow(i, i - 1);
  for (let i = middle - 1; i >= 0; i--) follow(i, i + 1);
  return neutralFirst(
    sorted.map((row, i) => ({ ...row, turn: turns[i] })),
    neutral,
  );
}
