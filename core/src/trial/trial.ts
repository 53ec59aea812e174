import type { Binding } from '../document';
import type { Duty } from './duties';
import type { Rulebook, Variable } from '../rulebook';
import type { LoadedPackage } from '../ship';

/** What a stand-in says while it loads a package: what it took, what it found odd, what it left out. */
export interface LogLine {
  grade: 'taken' | 'odd' | 'refused';
  text: string;
}

/** A variable that a package asks for and the platform passes in, with what follows it. */
export interface Lever {
  /** By `leverKey`. */
  key: string;
  variable: Variable;
  bindings: Binding[];
}

/** What a platform's stand-in does with a package. It plays it by `poseKit`, as the bench plays a kit. */
export interface Trial {
  importLog(loaded: LoadedPackage, rulebook: Rulebook): LogLine[];
  /** What drives what. */
  levers(loaded: LoadedPackage, rulebook: Rulebook): Lever[];
  /** Runs of its variables that ship with it. */
  duties: readonly Duty[];
}
