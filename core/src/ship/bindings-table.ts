import { ascending, partsInOrder, type Binding, type BindingRow, type Id, type Kit } from '../document';
import { sortedRows } from '../wiring';
import { withDerived, type Rulebook } from '../rulebook';

/** The columns of the table, in their order. */
export const BINDING_COLUMNS = [
  'variable',
  'index',
  'unit',
  'part',
  'outside',
  'neutral',
  'value',
  'offset_x',
  'offset_y',
  'offset_z',
  'turn_x',
  'turn_y',
  'turn_z',
  'size_x',
  'size_y',
  'size_z',
] as const;

/** Further columns, where a platform’s tables may go in curves: how, and how fast each number goes at a row for which that was said. */
export const CURVE_COLUMNS = [
  'between',
  'slope_offset_x',
  'slope_offset_y',
  'slope_offset_z',
  'slope_turn_x',
  'slope_turn_y',
  'slope_turn_z',
  'slope_size_x',
  'slope_size_y',
  'slope_size_z',
] as const;

/** A line of a table, and the part that it speaks of; none for the heading. */
export interface TableLine {
  text: string;
  part: Id | null;
}

/** All bindings as lines of CSV (RFC 4180), one a row of a table; lengths in the platform's unit, turns in degrees. */
export function bindingLines(kit: Kit, platform: Rulebook): TableLine[] {
  const rulebook = withDerived(platform, kit.derived);
  const curves = platform.tableCurves === true;
  const lines: TableLine[] = [{ text: [...BINDING_COLUMNS, ...(curves ? CURVE_COLUMNS : [])].join(','), part: null }];
  for (const part of partsInOrder(kit)) {
    const bindings = Object.values(kit.bindings).filter((one) => one.part === part.id);
    bindings.sort((a, b) => ascending(a.variable, b.variable) || (a.index ?? -1) - (b.index ?? -1));
    for (const binding of bindings) {
      const unit = unitOf(binding.variable, rulebook);
      for (const row of sortedRows(binding.rows)) {
        const neutral = row.value === binding.rows[0].value ? 'yes' : 'no';
        const fields = [
          binding.variable,
          binding.index ?? '',
          unit,
          part.name,
          binding.outside,
          neutral,
          row.value,
          ...row.offset,
          ...row.turn,
          ...row.size,
          ...(curves ? curveFields(binding, row) : []),
        ];
        lines.push({ text: csvLine(fields), part: part.id });
      }
    }
  }
  return lines;
}

function curveFields({ between = 'straight' }: Binding, { slope }: BindingRow): (string | number)[] {
  if (between === 'straight' || !slope) return [between, ...Array.from({ length: 9 }, () => '')];
  return [between, ...slope.offset, ...slope.turn, ...slope.size];
}

/** The lines as a file. */
export const tableText = (lines: readonly TableLine[]): string => `${lines.map(({ text }) => text).join('\r\n')}\r\n`;

/** All bindings as CSV. */
export const bindingsTable = (kit: Kit, rulebook: Rulebook): string => tableText(bindingLines(kit, rulebook));

/** The unit of a variable; none where the platform has no such. */
export const unitOf = (variable: string, { variables }: Rulebook): string => variables.find(({ name }) => name === variable)?.unit ?? '';

/** A line of fields (RFC 4180). */
export const csvLine = (fields: readonly (string | number)[]): string => fields.map(csvField).join(',');

function csvField(value: string | number): string {
  const text = typeof value === 'number' ? String(Number(value.toPrecision(9))) : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
