import type { Binding } from '../../document';
import { roleOf } from '../naming';
import type { Check } from '../types';
import { count } from '../wording';

/** Whether a binding's rows are all one pose, so that its part never moves. */
const posesNothing = ({ rows }: Binding): boolean =>
  rows.every((row) =>
    (['offset', 'turn', 'size'] as const).every((kind) => row[kind].every((value, axis) => value === rows[0][kind][axis])),
  );

/** Each driven part has exactly one binding, and is moved by it. */
export const bindingsOnePerDriven: Check = {
  id: 'bindings.one-per-driven',
  family: 'variables',
  stage: 'wiring',
  about: 'Each driven part has exactly one binding, and is moved by it',
  run({ kit, rulebook, parts }) {
    const bindings = Object.values(kit.bindings);
    return parts.flatMap((part) => {
      const own = bindings.filter((binding) => binding.part === part.id);
      const driven = roleOf(rulebook, part) === 'driven';
      if (own.length === 1 && own[0].rows.length > 0 && posesNothing(own[0]))
        return [
          {
            key: part.id,
            title: 'Bound, and does not move',
            message: `“${part.name}” follows ${own[0].variable}, but is posed the same at every value. Pose it at another one.`,
            measured: count(own[0].rows.length, 'row, one pose', 'rows, one pose'),
            limit: '2 poses',
            parts: [part.id],
          },
        ];
      if (own.length === 1 || (!driven && own.length === 0)) return [];
      const extra = own.slice(1);
      return [
        {
          key: part.id,
          title: own.length === 0 ? 'Driven part with no binding' : 'Part bound more than once',
          message:
            own.length === 0
              ? `“${part.name}” is driven, but no variable moves it.`
              : `“${part.name}” has ${own.length} bindings: ${own.map((one) => one.variable).join(', ')}.`,
          measured: count(own.length, 'binding'),
          limit: '1 binding',
          parts: [part.id],
          mend:
            extra.length > 0
              ? {
                  title: `Keep ${own[0].variable}, unbind the rest`,
                  safe: false,
                  call: { operation: 'wiring.remove-binding', args: { bindings: extra.map((one) => one.id) } },
                  changes: extra.map((one) => `${part.name} no longer follows ${one.variable}`),
                }
              : undefined,
        },
      ];
    });
  },
};
