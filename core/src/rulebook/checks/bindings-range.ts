import type { Binding } from '../../document';
import { sortedRows } from '../../wiring';
import type { Check, Mend, Said, Variable } from '../types';
import { count, figure } from '../wording';

/** Numbers of a unit that people type where another one is meant: how many of the first make one of the second. */
const MIXED: { unit: string; typed: string; per: number }[] = [
  { unit: 'm', typed: 'mm', per: 1000 },
  { unit: 'm', typed: 'cm', per: 100 },
  { unit: 'share', typed: '%', per: 100 },
  { unit: 'deg', typed: 'rad', per: Math.PI / 180 },
];
/** Ends that differ by less than this share of the range are the same. */
const SAME = 0.02;

/** The unit that a table's numbers look to be in: that in which they would span the range as far as they go. */
function typedIn(least: number, most: number, { unit, min, max }: Variable): (typeof MIXED)[number] | null {
  const reach = Math.max(Math.abs(least), Math.abs(most));
  const wanted = Math.max(Math.abs(min), Math.abs(max));
  return MIXED.find((one) => one.unit === unit && Math.abs(reach / one.per - wanted) < SAME * wanted) ?? null;
}

function mendOf(binding: Binding, variable: Variable, typed: (typeof MIXED)[number] | null): Mend | undefined {
  const rows = sortedRows(binding.rows);
  if (typed) {
    const to = { neutral: variable.neutral, min: variable.min, max: variable.max };
    const from = { neutral: to.neutral * typed.per, min: to.min * typed.per, max: to.max * typed.per };
    return {
      title: `Take the values as ${typed.typed}`,
      safe: false,
      call: { operation: 'wiring.rebind', args: { binding: binding.id, variable: binding.variable, index: binding.index, from, to } },
      changes: rows.map(({ value }) => `${figure(value)} ${typed.typed} → ${figure(value / typed.per)} ${variable.unit}`),
    };
  }
  const gone = rows.filter(({ value }) => value < variable.min || value > variable.max);
  return {
    title: 'End the table with the range',
    safe: false,
    call: {
      operation: 'wiring.cut-table',
      args: { binding: binding.id, min: variable.min, max: variable.max },
    },
    changes: gone.map(({ value }) => `the row at ${figure(value)} ${variable.unit} goes; what is played within the range stays`),
  };
}

/** No row of a table stands at a value that its variable never has. */
export const bindingsRange: Check = {
  id: 'bindings.range',
  family: 'variables',
  stage: 'wiring',
  about: 'No row of a table stands at a value that its variable never has, in its unit',
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const variable = rulebook.variables.find(({ name }) => name === binding.variable);
      const rows = sortedRows(binding.rows);
      if (!variable || rows.length === 0 || binding.outside === 'wrap') return [];
      const [least, most] = [rows[0].value, rows[rows.length - 1].value];
      const beyond = rows.filter(({ value }) => value < variable.min || value > variable.max).length;
      const typed = rows.length > 1 ? typedIn(least, most, variable) : null;
      if (beyond === 0 && typed?.typed !== 'rad') return [];
      const part = kit.parts[binding.part];
      const range = `${figure(variable.min)} to ${figure(variable.max)} ${variable.unit}`;
      return [
        {
          key: binding.id,
          title: typed ? `Values look like ${typed.typed}` : 'Rows beyond the range',
          message: typed
            ? `The table of “${part.name}” goes from ${figure(least)} to ${figure(most)}, ${binding.variable} from ${range}: its values look like ${typed.typed}.`
            : `The table of “${part.name}” has ${count(beyond, 'row')} at values that ${binding.variable} never has: it goes from ${range}.`,
          measured: `${figure(least)} to ${figure(most)}`,
          limit: range,
          parts: [part.id],
          mend: mendOf(binding, variable, typed),
        },
      ];
    });
  },
};
