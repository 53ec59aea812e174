import { ownParameter, restOf, type BehavioursRules } from '../behaviour';
import type { DerivedVariable } from '../document';
import { derivedReaders, type NeutralOf } from '../formula';
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

/** What a kit’s own variables can be worked out of. */
export type InputVariable = Pick<Variable, 'name' | 'indices' | 'unit' | 'neutral' | 'min' | 'max'>;

/** A platform’s variables, and where nothing is bound to such the numbers that its game passes in. */
export function inputVariables({ variables, behaviours }: Pick<Rulebook, 'variables' | 'behaviours'>): InputVariable[] {
  const own = variables.filter(({ expression }) => expression === undefined);
  if (own.length > 0 || !behaviours) return own;
  const rest = restOf(behaviours.parameters);
  return behaviours.parameters.flatMap((rule): InputVariable[] =>
    rule.kind === 'number' && rule.expression === undefined
      ? [{ name: rule.name, indices: 0, unit: rule.unit, neutral: rest(rule.name, null)!, min: rule.min, max: rule.max }]
      : [],
  );
}

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
  // Where nothing is bound to variables, what is the kit’s own is passed in with the rest.
  if (rulebook.behaviours && rulebook.variables.length === 0) return { ...rulebook, behaviours: withOwn(rulebook.behaviours, derived) };
  return { ...rulebook, variables: [...rulebook.variables, ...own] };
}

/** A kit may have numbers for other platforms: what can't be worked out here is none of this one's. */
function withOwn(rules: BehavioursRules, derived: readonly DerivedVariable[]): BehavioursRules {
  const names = new Set(rules.parameters.map(({ name }) => name));
  const readers = derivedReaders(derived, restOf(rules.parameters));
  const own = derived.filter(({ name }) => readers.has(name) && !names.has(name));
  return own.length === 0 ? rules : { ...rules, parameters: [...rules.parameters, ...own.map(ownParameter)] };
}

/** The group in which a kit’s own variables stand. */
export const OWN_GROUP = 'Of this kit';
