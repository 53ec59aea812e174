import type { DerivedVariable } from '../document';
import { FormulaError, readFormula, type Formula } from './formula';
import { leverKey } from './lever-key';

/** The neutral value of a variable that the platform passes in; null where it has none of that name and index. */
export type NeutralOf = (name: string, index: number | null) => number | null;

/** A derived variable made ready. */
export interface DerivedReader {
  /** Its value where others stand by their `leverKey`; those that are not said stand at neutral. */
  value(levers: Readonly<Record<string, number>>): number;
  /** The platform’s variables that it looks at, itself or through others, by `leverKey`. */
  looksAt: ReadonlyMap<string, { name: string; index: number | null }>;
}

/**
 * Makes the derived variables of a kit ready, in their order: each may look at the platform’s variables and at those before it, by the
 * functions of formulas. One that can’t be read is left out; `readDerived` says why.
 */
export function derivedReaders(derived: readonly DerivedVariable[], neutralOf: NeutralOf): Map<string, DerivedReader> {
  const out = new Map<string, DerivedReader>();
  for (const one of derived) {
    try {
      out.set(one.name, readDerived(one, neutralOf, out));
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
    }
  }
  return out;
}

/**
 * Makes one ready.
 *
 * @param before Those that it may look at beside the platform’s
 * @throws {FormulaError} with the character where its expression fails
 */
export function readDerived(
  { expression, neutral }: Pick<DerivedVariable, 'expression' | 'neutral'>,
  neutralOf: NeutralOf,
  before: ReadonlyMap<string, DerivedReader>,
): DerivedReader {
  const looksAt = new Map<string, { name: string; index: number | null }>();
  let levers: Readonly<Record<string, number>> = {};
  const symbol = (name: string, index: number | null): Formula | null => {
    const other = index === null ? before.get(name) : undefined;
    if (other) {
      for (const [key, one] of other.looksAt) looksAt.set(key, one);
      return () => other.value(levers);
    }
    const rest = neutralOf(name, index);
    if (rest === null) return null;
    const key = leverKey(name, index);
    looksAt.set(key, { name, index });
    return () => levers[key] ?? rest;
  };
  const formula = readFormula(
    expression,
    {},
    { symbol, there: 'variables of the platform (name[0] where there are several), pi, tau and e' },
  );
  return {
    looksAt,
    value(now) {
      levers = now;
      const value = formula(0, 0);
      return Number.isFinite(value) ? value : neutral;
    },
  };
}
