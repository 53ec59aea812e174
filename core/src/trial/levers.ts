import { neutralsOf, type Rulebook } from '../rulebook';
import { derivedReaders, leverKey } from '../formula';
import type { LoadedPackage } from '../ship';
import type { Lever } from './lever';

/**
 * A lever for each variable that the package asks for and its platform passes in, by name and index; what it does not pass in moves
 * nothing.
 */
export function levers({ kit }: LoadedPackage, { variables }: Rulebook): Lever[] {
  const rows = new Map<string, Lever>();
  const derived = derivedReaders(kit.derived ?? [], neutralsOf(variables));
  const leverFor = (name: string, index: number | null): Lever[] => {
    const variable = variables.find((one) => one.name === name);
    if (!variable || !isPassedIn(index, variable.indices)) return [];
    const key = leverKey(name, index);
    const row = rows.get(key) ?? { key, variable, index, bindings: [], switches: [] };
    rows.set(key, row);
    return [row];
  };
  /** What follows a variable that is worked out follows all that this is worked out of. */
  const leversFor = (name: string, index: number | null): Lever[] => {
    const own = index === null ? derived.get(name) : undefined;
    return own ? [...own.looksAt.values()].flatMap((one) => leverFor(one.name, one.index)) : leverFor(name, index);
  };
  for (const binding of Object.values(kit.bindings))
    for (const lever of leversFor(binding.variable, binding.index)) lever.bindings.push(binding);
  for (const one of kit.switches ?? []) for (const lever of leversFor(one.variable, one.index)) lever.switches.push(one);
  return [...rows.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** Whether a variable of so many indices has this one; one of none is asked for without. */
export function isPassedIn(index: number | null, indices: number): boolean {
  return indices === 0 ? index === null : index !== null && index < indices;
}
