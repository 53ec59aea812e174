import { ascending, partsInOrder, type Kit } from '../document';
import { sortedRows } from '../wiring';
import type { Rulebook } from '../rulebook';

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

/** All bindings as CSV (RFC 4180), one line a row of a table; lengths in the platform's unit, turns in degrees. */
export function bindingsTable(kit: Kit, rulebook: Rulebook): string {
  const lines = [BINDING_COLUMNS.join(',')];
  for (const part of partsInOrder(kit)) {
    const bindings = Object.values(kit.bindings).filter((one) => one.part === part.id);
    bindings.sort((a, b) => ascending(a.variable, b.variable) || (a.index ?? -1) - (b.index ?? -1));
    for (const binding of bindings) {
      const unit = rulebook.variables.find((variable) => variable.name === binding.variable)?.unit ?? '';
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
        ];
        lines.push(fields.map(csvField).join(','));
      }
    }
  }
  return `${lines.join('\r\n')}\r\n`;
}

function csvField(value: string | number): string {
  const text = typeof value === 'number' ? String(Number(value.toPrecision(9))) : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
