import type { DerivedVariable } from '../document';
import { derivedReaders, type NeutralOf } from '../formula';
import { valuesAtStart, type ParameterRule, type Values } from './rules';

/** A number of the kit's own, as a platform's are described. */
export const ownParameter = ({ name, expression, unit, min, max }: DerivedVariable): ParameterRule => ({
  name,
  title: name,
  about: `Worked out: ${expression}`,
  kind: 'number',
  unit,
  min,
  max,
  expression,
});

/** What numbers are where nothing is passed in; what is no number can't be reckoned with. */
export function restOf(parameters: readonly ParameterRule[]): NeutralOf {
  const start = valuesAtStart(parameters.filter((rule) => rule.kind === 'number' && rule.expression === undefined));
  return (name, index) => {
    const value = index === null ? start[name] : undefined;
    return typeof value === 'number' ? value : null;
  };
}

/** The kit's own numbers, made ready: what is passed in, with theirs among it, each within its range. */
export class OwnNumbers {
  private readonly own: { name: string; value: (numbers: Readonly<Record<string, number>>) => number }[];

  constructor(derived: readonly DerivedVariable[] | undefined, parameters: readonly ParameterRule[]) {
    const readers = derivedReaders(derived ?? [], restOf(parameters));
    this.own = (derived ?? []).map(({ name, min, max, neutral }) => {
      const reader = readers.get(name);
      // What can't be read stands still.
      return { name, value: (numbers) => (reader ? Math.min(max, Math.max(min, reader.value(numbers))) : neutral) };
    });
  }

  with(values: Values): Values {
    if (this.own.length === 0) return values;
    const numbers = Object.fromEntries(Object.entries(values).filter((one): one is [string, number] => typeof one[1] === 'number'));
    return { ...values, ...Object.fromEntries(this.own.map(({ name, value }) => [name, value(numbers)])) };
  }
}
