import type { Binding } from '../../document';
import { leverKey } from '../../formula';
import { probeDirections, type ProbedPart } from '../../wiring';
import type { CheckContext, Variable } from '../types';

/** A part that was probed, with the variable that it follows. */
export interface Probing extends ProbedPart {
  variable: Variable;
  key: string;
}

/** Every bound part of a variable that the catalogue has, moved from neutral; what has no rows moves nowhere. */
export function probed(context: CheckContext): Probing[] {
  return context.once('wiring.probed', ({ kit, rulebook, blobs }) => {
    const levers = new Map<string, { variable: Variable; bindings: Binding[] }>();
    for (const binding of Object.values(kit.bindings)) {
      const variable = rulebook.variables.find(({ name }) => name === binding.variable);
      if (!variable || binding.rows.length < 2) continue;
      const key = leverKey(binding.variable, binding.index);
      const lever = levers.get(key) ?? { variable, bindings: [] };
      lever.bindings.push(binding);
      levers.set(key, lever);
    }
    return [...levers].flatMap(([key, { variable, bindings }]) =>
      probeDirections(kit, blobs, bindings, variable).map((one): Probing => ({ ...one, variable, key })),
    );
  });
}
