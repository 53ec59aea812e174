import type { DerivedVariable } from '../document';
import type { NeutralOf } from '../wiring';
import type { Rulebook, Variable } from './types';

type Told = Pick<Variable, 'name' | 'indices' | 'neutral'>;

/** The neutral values of a platform’s variables. */
export const neutralsOf =
  (variables: readonly Told[]): NeutralOf =>
  (name, index) => {
    const variable = variables.find((one) => one.name === name);
    if (!variable || (variable.indices === 0 ? index !== null : index === null || index >= variable.indices)) return null;
    return variable.neutral;
  };

/** A rulebook with a kit’s own variables among its own; the same where there are none. */
export function withDerived(rulebook: Rulebook, derived: readonly DerivedVariable[] | undefined): Rulebook {
  if (!derived || derived.length === 0) return rulebook;
  const names = new Set(rulebook.variables.map(({ name }) => name));
  const own = derived
    .filter(({ name }) => !names.has(name))
    .map(({ name, expression, unit, min, max, neutral }): Variable => ({
      name,
      title: name,
      group: OWN_GROUP,
      unit,
      min,
      max,
      neutral,
      indices: 0,
      kind: 'actual',
      positive: `Worked out: ${expression}`,
      expression,
    }));
  return { ...rulebook, variables: [...rulebook.variables, ...own] };
}

/** The group in which a kit’s own variables stand. */
export const OWN_GROUP = 'Of this kit';
