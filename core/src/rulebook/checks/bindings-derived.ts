import type { DerivedVariable } from '../../document';
import { type DerivedReader, derivedReaders, FormulaError, readDerived } from '../../formula';
import { neutralsOf } from '../derived';
import type { Check, Rulebook, Said, Variable } from '../types';
import { figure } from '../wording';

/** Values of each variable that are looked at, its ends among them. */
const LOOKS = 41;

/** How far a derived variable goes while each variable that it looks at goes through its range, the others at neutral. */
function reachOf(reader: DerivedReader, variables: readonly Variable[]): [least: number, most: number] {
  const values = [reader.value({})];
  for (const [key, { name }] of reader.looksAt) {
    const { min, max } = variables.find((one) => one.name === name)!;
    for (let i = 0; i < LOOKS; i++) values.push(reader.value({ [key]: min + ((max - min) * i) / (LOOKS - 1) }));
  }
  return [Math.min(...values), Math.max(...values)];
}

function whyNot(one: DerivedVariable, variables: readonly Variable[], before: ReadonlyMap<string, DerivedReader>): string | null {
  if (variables.some(({ name }) => name === one.name)) return `the platform has a variable of that name itself`;
  try {
    const reader = readDerived(one, neutralsOf(variables), before);
    return reader.looksAt.size === 0 ? 'it looks at no variable of the platform, and never changes' : null;
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    return error.message.replace(/\.$/, '');
  }
}

/** Share of the range by which a value may be beyond it: rounding. */
const NEAR = 1e-9;

/** Variables of the kit’s own can be worked out of what the platform passes in, and stay within their range. */
export const bindingsDerived: Check = {
  id: 'bindings.derived',
  family: 'variables',
  stage: 'wiring',
  about: 'A variable of the kit’s own can be worked out of what the platform passes in, and stays within its range',
  run({ kit, rulebook }) {
    const { derived } = kit;
    if (!derived) return [];
    const platform = platformOf(rulebook);
    const readers = derivedReaders(derived, neutralsOf(platform));
    const before = new Map<string, DerivedReader>();
    return derived.flatMap((one): Said[] => {
      const why = whyNot(one, platform, before);
      const reader = readers.get(one.name);
      if (reader) before.set(one.name, reader);
      const parts = Object.values(kit.bindings).flatMap(({ variable, part }) => (variable === one.name ? [part] : []));
      if (why !== null || !reader)
        return [
          {
            key: one.id,
            title: 'A variable can’t be worked out',
            message: `${one.name} = ${one.expression}: ${why}. What follows it stands still.`,
            measured: one.name,
            limit: 'an expression of the platform’s variables',
            parts,
          },
        ];
      const [least, most] = reachOf(reader, platform);
      const slack = NEAR * (one.max - one.min);
      if (least >= one.min - slack && most <= one.max + slack) return [];
      const wider = { ...plain(one), min: Math.min(one.min, least), max: Math.max(one.max, most) };
      return [
        {
          key: one.id,
          title: 'A variable leaves its range',
          message: `${one.name} = ${one.expression} goes from ${figure(least)} to ${figure(most)} ${one.unit}, and its range is ${figure(one.min)} to ${figure(one.max)}.`,
          measured: `${figure(least)} to ${figure(most)}`,
          limit: `${figure(one.min)} to ${figure(one.max)} ${one.unit}`,
          parts,
          mend: {
            title: 'Widen its range',
            safe: false,
            call: { operation: 'wiring.set-derived', args: wider },
            changes: [`${one.name}: ${figure(wider.min)} to ${figure(wider.max)} ${one.unit}`],
          },
        },
      ];
    });
  },
};

/** The variables without the kit’s own. */
const platformOf = ({ variables }: Rulebook): Variable[] => variables.filter(({ expression }) => expression === undefined);

/** A record field by field: checks read records that are watched. */
const plain = ({ id, name, expression, unit, min, max, neutral }: DerivedVariable): DerivedVariable => ({
  id,
  name,
  expression,
  unit,
  min,
  max,
  neutral,
});
