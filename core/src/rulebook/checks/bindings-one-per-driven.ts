import { roleOf } from '../naming';
import type { Check } from '../types';
import { count } from '../wording';

/** Each driven part has exactly one binding. */
export const bindingsOnePerDriven: Check = {
  id: 'bindings.one-per-driven',
  family: 'variables',
  stage: 'wiring',
  about: 'Each driven part has exactly one binding',
  run({ kit, rulebook, parts }) {
    const bindings = Object.values(kit.bindings);
    return parts.flatMap((part) => {
      const own = bindings.filter((binding) => binding.part === part.id);
      const driven = roleOf(rulebook, part) === 'driven';
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
