import { leverKey } from '../../wiring';
import type { Rulebook } from '../../rulebook';
import type { LoadedPackage } from '../../ship';
import type { Lever } from '../lever';

/**
 * A lever for each variable that the package asks for and Brinework passes in, by name and index; what it does not pass in moves nothing.
 */
export function levers({ kit }: LoadedPackage, { variables }: Rulebook): Lever[] {
  const rows = new Map<string, Lever>();
  for (const binding of Object.values(kit.bindings)) {
    const variable = variables.find((one) => one.name === binding.variable);
    if (!variable || !isPassedIn(binding.index, variable.indices)) continue;
    const key = leverKey(binding.variable, binding.index);
    const row = rows.get(key) ?? { key, variable, bindings: [] };
    row.bindings.push(binding);
    rows.set(key, row);
  }
  return [...rows.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** Whether a variable of so many indices has this one; one of none is asked for without. */
export function isPassedIn(index: number | null, indices: number): boolean {
  return indices === 0 ? index === null : index !== null && index < indices;
}
