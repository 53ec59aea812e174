import { KitError, type BindingRow, type Vec3 } from '../document';
import { neutralRow } from './binding-operations';

/** A line of a pasted table that can't be read. */
export class RowsTextError extends KitError {
  constructor(message: string, line: number) {
    super('rows-text', `Line ${line}: ${message}`, `line ${line}`);
  }
}

/** What of a pose a column can say. */
export interface PoseColumn {
  of: 'offset' | 'turn' | 'size';
  axis: 0 | 1 | 2;
}

const UNIT_OF: Record<PoseColumn['of'], string> = { offset: 'm', turn: 'deg', size: '×' };

/** All columns of a table after the value, as the package’s table has them. */
export const ALL_COLUMNS: readonly PoseColumn[] = (['offset', 'turn', 'size'] as const).flatMap((of) =>
  ([0, 1, 2] as const).map((axis): PoseColumn => ({ of, axis })),
);

/** Cells of a line: of a spreadsheet by tabs, else by semicolons, else by commas, else by blanks. */
function cellsOf(line: string): string[] {
  const by = ['\t', ';', ','].find((one) => line.includes(one));
  return (by === undefined ? line.trim().split(/\s{2,}|\s(?=[-+.\d])/) : line.split(by)).map((cell) => cell.trim());
}

/**
 * Reads rows that were pasted from a spreadsheet: the value first, then what the columns say; missing cells are at rest. A heading, empty
 * lines and those that begin with # are passed over.
 *
 * @param columns What stands after the value. @param read A number in a unit from a cell that may name another one; not a number where it
 * can’t be read. @param unit Of the variable
 * @throws {RowsTextError} naming the line
 */
export function readRows(
  text: string,
  columns: readonly PoseColumn[],
  read: (cell: string, unit: string) => number,
  unit: string,
): BindingRow[] {
  const lines = text.split(/\r\n|\n|\r/).map((line, i) => ({ line, number: i + 1 }));
  const filled = lines.filter(({ line }) => line.trim() !== '' && !line.trim().startsWith('#'));
  const rows: BindingRow[] = [];
  const seen = new Map<number, number>();
  filled.forEach(({ line, number }, at) => {
    const [first, ...cells] = cellsOf(line);
    const value = read(first, unit);
    if (!Number.isFinite(value)) {
      if (at === 0 && cells.every((cell) => cell === '' || !Number.isFinite(read(cell, 'm')))) return;
      throw new RowsTextError(`“${first}” is no value in ${unit}.`, number);
    }
    if (cells.length > columns.length)
      throw new RowsTextError(`there are ${cells.length + 1} columns, and ${columns.length + 1} are asked for.`, number);
    if (seen.has(value))
      throw new RowsTextError(`${value} stands on line ${seen.get(value)} already; a table has one row a value.`, number);
    seen.set(value, number);
    const row = neutralRow(value);
    cells.forEach((cell, i) => {
      if (cell === '') return;
      const { of, axis } = columns[i];
      const said = read(cell, UNIT_OF[of]);
      if (!Number.isFinite(said)) throw new RowsTextError(`“${cell}” is no ${of}.`, number);
      const next: Vec3 = [...row[of]];
      next[axis] = said;
      row[of] = next;
    });
    rows.push(row);
  });
  return rows;
}
