import type { Check, Said, Variable } from '../types';
import { leverKey } from '../../formula';

const WORDS: Record<Variable['kind'], string> = { commanded: 'what is asked for', actual: 'how fast it goes' };

const rangeOf = ({ min, max, neutral }: Variable) => ({ min, max, neutral });

/** A part that shows where something stands follows the variable that says so, not one of what is asked for, or of how fast it goes. */
export const bindingsPosition: Check = {
  id: 'bindings.position',
  family: 'variables',
  stage: 'wiring',
  about: 'A part that shows where something stands follows the variable that says so, not an order or a speed',
  needs: ({ variables }) =>
    variables.some(({ position }) => position) ? null : 'which variable says where it stands (variables, position)',
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const variable = rulebook.variables.find(({ name }) => name === binding.variable);
      const position = variable?.position && rulebook.variables.find(({ name }) => name === variable.position);
      if (!variable || !position) return [];
      const part = kit.parts[binding.part];
      const index = position.indices === 0 ? null : Math.min(binding.index ?? 0, position.indices - 1);
      const [from, to] = [leverKey(variable.name, binding.index), leverKey(position.name, index)];
      return [
        {
          key: binding.id,
          title: variable.kind === 'commanded' ? 'Follows an order' : 'Follows a speed',
          message: `“${part.name}” follows ${from}, which says ${WORDS[variable.kind]}. ${to} says where it stands.`,
          measured: from,
          limit: to,
          parts: [part.id],
          mend: {
            title: `Bind to ${to}`,
            safe: false,
            call: {
              operation: 'wiring.rebind',
              args: { binding: binding.id, variable: position.name, index, from: rangeOf(variable), to: rangeOf(position) },
            },
            changes: [`${from} → ${to}`, `the values of its table go along, ends to ends, neutral to neutral`],
          },
        },
      ];
    });
  },
};
