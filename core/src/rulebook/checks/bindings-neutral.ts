import { evaluateBinding, neutralRow } from '../../wiring';
import type { Check, Said } from '../types';
import { figure } from '../wording';

/** A binding's part stands at rest where its variable is neutral. */
export const bindingsNeutral: Check = {
  id: 'bindings.neutral',
  family: 'variables',
  stage: 'wiring',
  about: 'A part stands at rest where its variable is neutral',
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const variable = rulebook.variables.find(({ name }) => name === binding.variable);
      if (!variable || binding.rows.length === 0) return [];
      const { offset, turn, size } = evaluateBinding(binding, variable.neutral);
      const off = Math.hypot(...offset);
      const turned = Math.max(...turn.map(Math.abs));
      const resized = Math.max(...size.map((value) => Math.abs(value - 1)));
      if (Math.max(off, turned, resized) <= 1e-9) return [];
      const part = kit.parts[binding.part];
      const measured = [
        ...(off > 1e-9 ? [`${figure(1000 * off, 1)} mm off`] : []),
        ...(turned > 1e-9 ? [`${figure(turned, 2)}° turned`] : []),
        ...(resized > 1e-9 ? [`${figure(100 * resized, 1)} % resized`] : []),
      ].join(', ');
      return [
        {
          key: binding.id,
          title: 'Neutral is not rest',
          message: `“${part.name}” is posed at ${figure(variable.neutral)} ${variable.unit}, the neutral value of ${binding.variable}: it would jump as the machine is switched on.`,
          measured,
          limit: 'at rest',
          parts: [part.id],
          mend: {
            title: 'Rest at neutral',
            safe: false,
            call: { operation: 'wiring.set-row', args: { binding: binding.id, row: neutralRow(variable.neutral) } },
            changes: [`${part.name} stands at rest at ${figure(variable.neutral)} ${variable.unit}`],
          },
        },
      ];
    });
  },
};
