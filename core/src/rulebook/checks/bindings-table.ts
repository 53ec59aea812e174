import type { Binding } from '../../document';
import { sortedRows } from '../../wiring';
import type { Check, Said, Variable } from '../types';
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

/** A binding's table begins with the neutral value and covers the variable's range. */
export const bindingsTable: Check = {
  id: 'bindings.table',
  family: 'variables',
  stage: 'wiring',
  about: 'A binding’s table begins with the neutral value and covers the variable’s range',
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const variable = rulebook.variables.find((one) => one.name === binding.variable);
      const found = variable && fault(binding, variable);
      if (!found) return [];
      const part = kit.parts[binding.part];
      return [
        {
          key: binding.id,
          title: found.title,
          message: `The table of “${part.name}” on ${binding.variable} ${found.what}.`,
          measured: found.measured,
          limit: found.limit,
          parts: [part.id],
          mend:
            binding.rows.length > 0
              ? {
                  title: 'Complete the table',
                  safe: true,
                  call: {
                    operation: 'wiring.complete-table',
                    args: { binding: binding.id, neutral: variable.neutral, min: variable.min, max: variable.max },
                  },
                }
              : undefined,
        },
      ];
    });
  },
};
