import { factFault, type FactRule } from '../../grounds';
import type { Fact } from '../../document';
import type { Check, Mend, MendWay, Said } from '../types';
import { needsGrounds } from './grounds-shared';

/** What could stand there: the middle of comparable things, or one of what can be chosen. */
function proposals(rule: FactRule): { value: Fact; why: string }[] {
  switch (rule.kind) {
    case 'number': {
      const shipped = [...(rule.shipped ?? [])].sort((a, b) => a - b);
      return shipped.length === 0 ? [] : [{ value: shipped[Math.floor(shipped.length / 2)], why: 'the middle of comparable things' }];
    }
    case 'choice':
      return rule.choices.map((value) => ({ value, why: 'one of what there is' }));
    case 'yes-no':
      return [false, true].map((value) => ({ value, why: 'one of the two' }));
    default:
      return [];
  }
}

const SAID = { true: 'yes', false: 'no' } as const;
const words = (value: Fact): string => (typeof value === 'boolean' ? SAID[`${value}`] : String(value));

function mendOf(rule: FactRule): Mend | null {
  const ways = proposals(rule).map(({ value, why }): MendWay => ({
    title: `Say ${words(value)}`,
    call: { operation: 'grounds.set-facts', args: { facts: { [rule.name]: value } } },
    changes: [`“${rule.title}” is ${words(value)}: ${why}`],
  }));
  if (ways.length === 0) return null;
  return { ...ways[0], safe: false, ...(ways.length > 1 && { ways }) };
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
  run({ kit, rulebook }) {
    const facts = kit.grounds?.facts ?? {};
    return rulebook.grounds!.facts.flatMap((rule): Said[] => {
      const fault = factFault(rule, facts[rule.name]);
      if (fault === null) return [];
      const mend = mendOf(rule);
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
