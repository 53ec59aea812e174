import type { Check, Said, Variable } from '../types';
import { leverKey } from '../../formula';

/** Levenshtein's distance (1966), for names that are nearly right. */
export function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) next[j] = Math.min(next[j - 1] + 1, row[j] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length];
}

function nearest(variables: readonly Variable[], name: string): Variable | null {
  const ranked = variables
    .map((variable) => ({ variable, distance: editDistance(name.toLowerCase(), variable.name) }))
    .sort((a, b) => a.distance - b.distance);
  return ranked.length > 0 && ranked[0].distance <= 3 ? ranked[0].variable : null;
}

/** The bound variable is in the catalogue, and its index is one that it has. */
export const bindingsVariable: Check = {
  id: 'bindings.variable',
  family: 'variables',
  stage: 'wiring',
  about: 'The bound variable is in the catalogue, and its index is one that it has',
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const part = kit.parts[binding.part];
      const variable = rulebook.variables.find((one) => one.name === binding.variable);
      const base = { key: binding.id, parts: [part.id] };
      if (!variable) {
        const near = nearest(rulebook.variables, binding.variable);
        const index = near && near.indices > 0 ? Math.min(binding.index ?? 0, near.indices - 1) : null;
        return [
          {
            ...base,
            title: 'Unknown variable',
            message: `“${part.name}” is bound to “${binding.variable}”, which ${rulebook.title} does not have.`,
            measured: binding.variable,
            limit: near ? `perhaps ${near.name}` : 'a variable of the catalogue',
            mend: near
              ? {
                  title: `Bind to ${near.name}`,
                  safe: false,
                  call: { operation: 'wiring.set-binding', args: { binding: binding.id, variable: near.name, index } },
                  changes: [`${binding.variable} → ${near.name}`],
                }
              : undefined,
          },
        ];
      }
      const fits = variable.indices === 0 ? binding.index === null : binding.index !== null && binding.index < variable.indices;
      if (fits) return [];
      const index = variable.indices === 0 ? null : Math.min(binding.index ?? 0, variable.indices - 1);
      return [
        {
          ...base,
          title: 'Index out of range',
          message: `“${part.name}” is bound to ${leverKey(binding.variable, binding.index)}; ${variable.indices === 0 ? 'it has no index' : `its indices are 0 to ${variable.indices - 1}`}.`,
          measured: binding.index === null ? 'no index' : `index ${binding.index}`,
          limit: variable.indices === 0 ? 'no index' : `0 to ${variable.indices - 1}`,
          mend: {
            title: `Bind to ${leverKey(variable.name, index)}`,
            safe: false,
            call: { operation: 'wiring.set-binding', args: { binding: binding.id, index } },
            changes: [`${leverKey(binding.variable, binding.index)} → ${leverKey(variable.name, index)}`],
          },
        },
      ];
    });
  },
};
