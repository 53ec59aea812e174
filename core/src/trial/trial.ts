import type { Duty } from './duties';
import type { Rulebook } from '../rulebook';
import type { LoadedPackage } from '../ship';
import type { Lever } from './lever';

/** What a stand-in says while it loads a package: what it took, what it found odd, what it left out. */
export interface LogLine {
  grade: 'taken' | 'odd' | 'refused';
  text: string;
}

/** What a platform's stand-in does with a package. It plays it by `poseKit`, as the bench plays a kit. */
export interface Trial {
  importLog(loaded: LoadedPackage, rulebook: Rulebook): LogLine[];
  /** What drives what. */
  levers(loaded: LoadedPackage, rulebook: Rulebook): Lever[];
  /** Runs of its variables that ship with it. */
  duties: readonly Duty[];
  /** Whether it says itself which clip plays, by what is asked of it. */
  choosesClips?: true;
  /** What a rulebook has to say for it: versions that do not have no stand-in. */
  needs?: 'grounds' | 'behaviours';
}
