import type { Condition, Layer, Passage } from '../document';
import type { ParameterRule } from './rules';

/**
 * What a passage asks of a value at first: the opposite of what the way back asks of it, where there is one that has an opposite. Else of a
 * number that it is past the middle of what there is above nothing, of a name that it is
 * another than at the start, of yes and no that it is yes.
 */
export function firstQuestion({ passages }: Layer, { from, to }: Pick<Passage, 'from' | 'to'>, rule: ParameterRule): Condition {
  const back = passages.find((one) => one.from === to && one.to === from);
  const asked = back?.when.find(({ parameter }) => parameter === rule.name);
  return (asked && oppositeOf(asked, rule)) ?? plainQuestion(rule);
}

/** The condition that holds where another does not; null where no one condition says that. */
export function oppositeOf(one: Condition, rule: ParameterRule): Condition | null {
  const { parameter } = one;
  if (one.kind === 'range') {
    if ((one.atLeast === null) === (one.below === null)) return null;
    return { kind: 'range', parameter, atLeast: one.below, below: one.atLeast };
  }
  if (one.kind === 'sent' || (rule.kind !== 'names' && rule.kind !== 'yes-no')) return null;
  const values = (rule.kind === 'names' ? rule.values : ['yes', 'no']).filter((value) => !one.values.includes(value));
  return values.length > 0 ? { kind: 'among', parameter, values } : null;
}

function plainQuestion(rule: ParameterRule): Condition {
  const { name: parameter } = rule;
  if (rule.kind === 'signal') return { kind: 'sent', parameter };
  if (rule.kind === 'number')
    return { kind: 'range', parameter, atLeast: Number(((Math.max(0, rule.min) + rule.max) / 2).toFixed(2)), below: null };
  return { kind: 'among', parameter, values: [rule.kind === 'names' ? (rule.values[1] ?? rule.values[0]) : 'yes'] };
}
