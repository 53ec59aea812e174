import { csvParseRows } from 'd3-dsv';
import {
  BETWEENS,
  callOf,
  conformRows,
  count,
  KitError,
  MemoryBlobs,
  OUTSIDES,
  partsInOrder,
  type Between,
  type Binding,
  type BindingRow,
  type Call,
  type Id,
  type Kit,
  type Outside,
  type PoseDelta,
  type Vec3,
} from '../document';
import { leverKey } from '../formula';
import { CANONICAL, changeOfSpace, conforming } from '../geometry';
import { withDerived, type Rulebook } from '../rulebook';
import { addBinding, neutralFirst, removeBinding } from '../wiring';
import { BINDING_COLUMNS, CURVE_COLUMNS } from './bindings-table';

/** A line of a table of bindings that can't be taken. */
export class BindingsTableError extends KitError {
  constructor(message: string, line: number) {
    super('bindings-table', `Line ${line}: ${message}`, `line ${line}`);
  }
}

type Column = (typeof BINDING_COLUMNS)[number] | (typeof CURVE_COLUMNS)[number];

/** The columns without which no row says anything. */
const NEEDED: readonly Column[] = ['variable', 'part', 'value'];
/** Most lines that are read: each binding of the largest kit with a row a degree. */
const MOST_LINES = 200_000;

interface Line {
  number: number;
  text(column: Column): string;
  numeric(column: Column, otherwise: number): number;
}

function linesOf(text: string): Line[] {
  const [head = [], ...rows] = csvParseRows(text.replace(/^\uFEFF/, ''));
  const names = head.map((name) => name.trim().toLowerCase());
  const missing = NEEDED.filter((name) => !names.includes(name));
  if (missing.length > 0)
    throw new BindingsTableError(
      `the heading has no ${missing.map((name) => `“${name}”`).join(', ')}. It begins ${BINDING_COLUMNS.join(',')}.`,
      1,
    );
  if (rows.length > MOST_LINES) throw new BindingsTableError(`there are more than ${count(MOST_LINES, 'line')}.`, MOST_LINES + 2);
  return rows.flatMap((cells, i): Line[] => {
    if (cells.every((cell) => cell.trim() === '')) return [];
    const number = i + 2;
    const cell = (column: Column) => cells[names.indexOf(column)]?.trim() ?? '';
    return [
      {
        number,
        text: cell,
        numeric(column, otherwise) {
          const said = cell(column);
          if (said === '') return otherwise;
          const value = Number(said);
          if (!Number.isFinite(value)) throw new BindingsTableError(`“${said}” is no number for ${column}.`, number);
          return value;
        },
      },
    ];
  });
}

type Told = Pick<Binding, 'part' | 'variable' | 'index' | 'outside' | 'between' | 'rows'>;

type Vectors = 'offset' | 'turn' | 'size';
const vector = (line: Line, of: Vectors | `slope_${Vectors}`, rest: number): Vec3 =>
  (['x', 'y', 'z'] as const).map((axis) => line.numeric(`${of}_${axis}`, rest)) as Vec3;

/** How fast the pose goes at a row; undefined where its line says nothing of it. */
function slopeOf(line: Line): PoseDelta | undefined {
  if (CURVE_COLUMNS.every((column) => column === 'between' || line.text(column) === '')) return undefined;
  return { offset: vector(line, 'slope_offset', 0), turn: vector(line, 'slope_turn', 0), size: vector(line, 'slope_size', 0) };
}

/** How a table goes from row to row: as the first line says that says it. */
function betweenOf(line: Line, { title, tableCurves }: Rulebook): Between | undefined {
  const said = line.text('between');
  if (said === '' || said === 'straight') return undefined;
  if (said !== 'curve') throw new BindingsTableError(`“${said}” is none of ${BETWEENS.join(', ')}.`, line.number);
  if (!tableCurves) throw new BindingsTableError(`${title} plays no curves between rows. Say “straight”.`, line.number);
  return said;
}

/**
 * Reads bindings as a package’s table has them, in the platform’s unit and axes, and puts them into the kit’s own. Cells that are empty
 * are at rest.
 *
 * @throws {BindingsTableError} naming the line: a part or variable that is not there, an index that the variable does not have, a value
 * twice, something that is no number
 */
export function readBindingsTable(text: string, kit: Kit, platform: Rulebook): Told[] {
  const rulebook = withDerived(platform, kit.derived);
  const parts = new Map<string, Id[]>();
  for (const { id, name } of partsInOrder(kit)) parts.set(name, [...(parts.get(name) ?? []), id]);
  const told = new Map<string, Told & { neutral: number | null }>();
  for (const line of linesOf(text)) {
    const name = line.text('part');
    const found = parts.get(name) ?? [];
    if (found.length !== 1)
      throw new BindingsTableError(
        found.length === 0 ? `there is no part “${name}”.` : `there are ${found.length} parts “${name}”.`,
        line.number,
      );
    const variable = rulebook.variables.find((one) => one.name === line.text('variable'));
    if (!variable) throw new BindingsTableError(`${rulebook.title} has no variable “${line.text('variable')}”.`, line.number);
    const index = line.text('index') === '' ? null : line.numeric('index', 0);
    const fits =
      variable.indices === 0 ? index === null : index !== null && Number.isInteger(index) && index >= 0 && index < variable.indices;
    if (!fits)
      throw new BindingsTableError(
        variable.indices === 0 ? `${variable.name} has no index.` : `${variable.name} has the indices 0 to ${variable.indices - 1}.`,
        line.number,
      );
    const outside = (line.text('outside') || 'clamp') as Outside;
    if (!OUTSIDES.includes(outside)) throw new BindingsTableError(`“${outside}” is none of ${OUTSIDES.join(', ')}.`, line.number);
    const key = `${found[0]} ${leverKey(variable.name, index)}`;
    const between = betweenOf(line, rulebook);
    const binding = told.get(key) ?? {
      ...{ part: found[0], variable: variable.name, index, outside, rows: [], neutral: null },
      ...(between && { between }),
    };
    const value = line.numeric('value', NaN);
    if (Number.isNaN(value)) throw new BindingsTableError('there is no value.', line.number);
    if (binding.rows.some((row) => row.value === value))
      throw new BindingsTableError(`“${name}” has a row at ${value} already.`, line.number);
    const row: BindingRow = { value, offset: vector(line, 'offset', 0), turn: vector(line, 'turn', 0), size: vector(line, 'size', 1) };
    const slope = slopeOf(line);
    binding.rows.push(slope ? { ...row, slope } : row);
    if (line.text('neutral') === 'yes' || (binding.neutral === null && value === variable.neutral)) binding.neutral = value;
    told.set(key, binding);
  }
  const into = conforming(changeOfSpace(rulebook.space, CANONICAL), new MemoryBlobs());
  return [...told.values()].map(({ neutral, rows, ...binding }) => ({
    ...binding,
    rows: neutralFirst(conformRows(rows, into), neutral ?? rows[0].value),
  }));
}

/** The operations that put these bindings into a kit, in place of what the same parts followed before. */
export function wireCalls(kit: Kit, told: readonly Told[]): Call[] {
  const parts = new Set(told.map(({ part }) => part));
  const before = Object.values(kit.bindings).filter(({ part }) => parts.has(part));
  return [
    ...(before.length > 0 ? [callOf(removeBinding, { bindings: before.map(({ id }) => id) })] : []),
    ...told.map((binding) => callOf(addBinding, binding)),
  ];
}
