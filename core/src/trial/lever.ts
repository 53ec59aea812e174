import type { Binding, Switch } from '../document';
import type { Variable } from '../rulebook';

/** A variable that a package asks for and the platform passes in, with what follows it. */
export interface Lever {
  /** By `leverKey`. */
  key: string;
  variable: Variable;
  /** From 0; null where the variable has none. */
  index: number | null;
  bindings: Binding[];
  /** Parts that it shows and hides. */
  switches: Switch[];
}
