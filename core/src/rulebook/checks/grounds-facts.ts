import { factFault, type FactRule } from '../../grounds';
import type { Fact } from '../../document';
import type { Check, Mend, Said } from '../types';
import { groupsOf, needsGrounds } from './grounds-shared';

/**
 * What could stand there: the middle of comparable things; of what can be chosen the first for a thing that carries visitors, the last for
 * one that does not.
 */
function proposal(rule: FactRule, carries: boolean): { value: Fact; why: string } | null {
  if (rule.kind === 'number' && rule.shipped?.length) {
    const shipped = [...rule.shipped].sort((a, b) => a - b);
    return { value: shipped[Math.floor(shipped.length / 2)], why: 'the middle of comparable things' };
  }
  if (rule.kind !== 'choice') return null;
  return carries
    ? { value: rule.choices[0], why: 'it has seats; the sheet of facts has the others' }
    : { value: rule.choices[rule.choices.length - 1], why: 'it has no seats; the sheet of facts has the others' };
}

function mendOf(rule: FactRule, carries: boolean): Mend | null {
  const proposed = proposal(rule, carries);
  return (
    proposed && {
      title: `Say ${String(proposed.value)}`,
      safe: false,
      call: { operation: 'grounds.set-facts', args: { facts: { [rule.name]: proposed.value } } },
      changes: [`“${rule.title}” is ${String(proposed.value)}: ${proposed.why}`],
    }
  );
}

function limitOf(rule: FactRule): string {
  if (rule.kind === 'number') return `${rule.min} to ${rule.max} ${rule.unit}`.trim();
  return rule.kind === 'choice' ? rule.choices.join(', ') : 'something';
}

/** The sheet of facts is filled in, within what the platform takes. */
export const groundsFacts: Check = {
  id: 'grounds.facts',
  family: 'grounds',
  stage: 'wiring',
  about: 'The sheet of facts is filled in, within what the platform takes',
  needs: needsGrounds,
  run(context) {
    const { kit, rulebook } = context;
    const carries = groupsOf(context).length > 0;
    const facts = kit.grounds?.facts ?? {};
    return rulebook.grounds!.facts.flatMap((rule): Said[] => {
      const fault = factFault(rule, facts[rule.name]);
      if (fault === null) return [];
      const mend = mendOf(rule, carries);
      return [
        {
          key: rule.name,
          title: 'A fact is missing or wrong',
          message: `“${rule.title}” ${fault}: ${rule.about}`,
          measured: String(facts[rule.name] ?? 'nothing'),
          limit: limitOf(rule),
          parts: [],
          ...(mend && { mend }),
        },
      ];
    });
  },
};
