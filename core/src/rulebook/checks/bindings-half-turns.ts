import { halfTurns } from '../../wiring';
import type { Check, Said } from '../types';
import { figure } from '../wording';

/** Between two rows of a table nothing turns by 180° or more, where a platform goes the short way. */
export const bindingsHalfTurns: Check = {
  id: 'bindings.half-turns',
  family: 'variables',
  stage: 'wiring',
  about: 'Between two rows of a table nothing turns by 180° or more, where the platform goes the short way',
  needs: ({ shortTurns }) => (shortTurns ? null : 'a platform that goes the short way between rows (shortTurns)'),
  run({ kit, rulebook }) {
    return Object.values(kit.bindings).flatMap((binding): Said[] => {
      const [widest] = halfTurns(binding);
      if (!widest) return [];
      const { from, to, axis, degrees } = widest;
      const part = kit.parts[binding.part];
      // Each piece of the widest stretch has to be less than half a turn.
      const each = Math.floor(Math.abs(degrees) / 180);
      const rows = binding.rows.length + (binding.rows.length - 1) * each;
      return [
        {
          key: binding.id,
          title: 'Half a turn between two rows',
          message: `“${part.name}” turns by ${figure(Math.abs(degrees), 1)}° about ${'xyz'[axis]} between ${figure(from.value)} and ${figure(to.value)} of ${binding.variable}. ${rulebook.title} goes the short way.`,
          measured: `${figure(Math.abs(degrees), 1)}°`,
          limit: 'less than 180°',
          share: Math.abs(degrees) / 180,
          parts: [part.id],
          ...(each <= 20 && {
            mend: {
              title: 'Put rows between',
              safe: true,
              call: { operation: 'wiring.add-between', args: { binding: binding.id, each } },
              changes: [`${binding.rows.length} rows → ${rows}; nothing goes otherwise`],
            },
          }),
        },
      ];
    });
  },
};
