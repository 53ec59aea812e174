import type { Rulebook } from '../rulebook';
import type { LoadedPackage } from '../ship';
import { rowsTheShortWay } from '../wiring';

/** A package as its platform takes it: where that goes the short way between two rows of a table, its tables are such. */
export function takenBy(loaded: LoadedPackage, { shortTurns }: Pick<Rulebook, 'shortTurns'>): LoadedPackage {
  if (!shortTurns) return loaded;
  const bindings = Object.entries(loaded.kit.bindings).map(([id, one]) => [id, { ...one, rows: rowsTheShortWay(one) }] as const);
  return { ...loaded, kit: { ...loaded.kit, bindings: Object.fromEntries(bindings) } };
}
