import type { Binding, BindingRow } from '../../document';
import { COMPLETIONS, missingRows, sortedRows, type Completion } from '../../wiring';
import type { Check, Mend, MendWay, Said, Variable } from '../types';
import { figure } from '../wording';

function fault(binding: Binding, variable: Variable): { title: string; what: string; limit: string; measured: string } | null {
  const range = `${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}`;
  const rows = sortedRows(binding.rows);
  if (rows.length === 0) return { title: 'Empty table', what: 'has no rows', measured: '0 rows', limit: `neutral first, ${range}` };
  const measured = `${figure(rows[0].value)} to ${figure(rows[rows.length - 1].value)} ${variable.unit}`;
  if (binding.rows[0].value !== variable.neutral)
    return {
      title: 'Neutral is not first',
      what: `begins with ${figure(binding.rows[0].value)}, but neutral is ${figure(variable.neutral)} ${variable.unit}`,
      measured: `first row ${figure(binding.rows[0].value)}`,
      limit: `first row ${figure(variable.neutral)}`,
    };
  const wraps = binding.outside === 'wrap' && rows.length > 1;
  if (!wraps && (rows[0].value > variable.min || rows[rows.length - 1].value < variable.max))
    return {
      title: 'Table does not cover the range',
      what: `runs from ${measured}, but the variable from ${range}`,
      measured,
      limit: range,
    };
  return null;
}

/** A row in words: “at 55 deg: turned 30° about x”. */
function rowInWords({ value, offset, turn, size }: BindingRow, { unit }: Variable): string {
  const each = (values: readonly number[], rest: number, say: (value: number, axis: string) => string) =>
    values.flatMap((one, axis) => (Math.abs(one - rest) > 1e-9 ? [say(one, 'xyz'[axis])] : []));
  const pose = [
    ...each(offset, 0, (one, axis) => `${figure(1000 * one, 1)} mm along ${axis}`),
    ...each(turn, 0, (one, axis) => `turned ${figure(one, 2)}° about ${axis}`),
    ...each(size, 1, (one, axis) => `${figure(one)} times as large along ${axis}`),
  ];
  return `at ${figure(value)} ${unit}: ${pose.length > 0 ? pose.join(', ') : 'at rest'}`;
}

const WAYS: Record<Completion, string> = { 'as-played': 'As it is played now', straight: 'Straight on' };

function mendOf(binding: Binding, variable: Variable): Mend {
  const range = { neutral: variable.neutral, min: variable.min, max: variable.max };
  const way = (by: Completion): MendWay => {
    const added = missingRows(binding, range, by).map((row) => rowInWords(row, variable));
    return {
      title: WAYS[by],
      call: { operation: 'wiring.complete-table', args: { binding: binding.id, ...range, by } },
      changes: added.length > 0 ? added : [`the row at ${figure(variable.neutral)} ${variable.unit} comes first`],
    };
  };
  const ways = COMPLETIONS.map(way);
  const differ = ways[0].changes.join() !== ways[1].changes.join();
  return { title: 'Complete the table', safe: false, call: ways[0].call, changes: ways[0].changes, ...(differ ? { ways } : {}) };
}

/** A binding's table begins with the neutral value and covers the variable's range. */
export const bindingsTable: Check = {
  id: 'bindings.table',
  family: 'variables',
  stage: 'wiring',
  about: 'A binding’s table begins with the neutral value and covers the variable’s range',
  run({ kit, rulebook }) {
    // Where links stop short of the range the rule for links says why; a table that went on would pull them apart.
    const linked = rulebook.rules.some(({ check }) => check === 'bindings.links') ? (kit.links ?? []) : [];
    const followsLink = ({ part, variable, index }: Binding) =>
      linked.some((link) => link.parts.includes(part) && link.variable === variable && link.index === index);
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const variable = rulebook.variables.find((one) => one.name === binding.variable);
      const found = variable && fault(binding, variable);
      if (!found || (binding.rows[0]?.value === variable.neutral && followsLink(binding))) return [];
      const part = kit.parts[binding.part];
      return [
        {
          key: binding.id,
          title: found.title,
          message: `The table of “${part.name}” on ${binding.variable} ${found.what}.`,
          measured: found.measured,
          limit: found.limit,
          parts: [part.id],
          mend: binding.rows.length > 0 ? mendOf(binding, variable) : undefined,
        },
      ];
    });
  },
};
