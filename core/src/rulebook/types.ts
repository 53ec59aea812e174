import type { Blobs, Call, Id, Kit, Role, Space } from '../document';

export const RULEBOOK_FORMAT = 'itchkit.rulebook/1';
export const STAGES = ['intake', 'shape', 'rig', 'motion', 'wiring', 'trial', 'ship'] as const;
export type Stage = (typeof STAGES)[number];
export const GRADES = ['stop', 'warn', 'note'] as const;
/** stop: no package; warn: it will be poorer; note: worth knowing. */
export type Grade = (typeof GRADES)[number];

export interface NamePattern {
  role: Role | null;
  /** What a name of this role begins with; also how the role is found from a name. */
  prefix: string;
  /** JavaScript regular expression for the whole name. */
  pattern: string;
  /** The pattern in plain words. */
  explain: string;
  examples: string[];
}

export interface Variable {
  name: string;
  title: string;
  group: string;
  unit: string;
  min: number;
  max: number;
  neutral: number;
  /** How many of it there are, counted from 0; 0 where it has no index. */
  indices: number;
  /** Whether it says what is asked for, or where the machine stands. */
  kind: 'commanded' | 'actual';
  /** Which way a part goes when the value rises. */
  positive: string;
}

export interface Output {
  /** Where the file stands in the package; `{kit}` is the kit's name. */
  path: string;
  holds: 'model' | 'bindings-table';
}

export interface Rule {
  id: string;
  check: string;
  grade: Grade;
  why: string;
  /** What the check measures against, where it is a number. */
  limit?: number;
}

export interface Rulebook {
  format: typeof RULEBOOK_FORMAT;
  id: string;
  version: string;
  title: string;
  summary: string;
  space: Space;
  unit: { name: string; short: string };
  tileMetres: number;
  stepMetres: number;
  stepDegrees: number;
  naming: { root: string; maxLength: number; patterns: NamePattern[] };
  variables: Variable[];
  packaging: Output[];
  rules: Rule[];
}

/** An operation that settles a finding. */
export interface Mend {
  title: string;
  call: Call;
  /** Safe: nothing that can be seen changes. The others show what will change first. */
  safe: boolean;
  /** What will change, for mends that ask. */
  changes?: string[];
}

export interface Finding {
  /** Stable while the same thing is wrong in the same place. */
  id: string;
  rule: string;
  check: string;
  family: string;
  stage: Stage;
  grade: Grade;
  /** A few words. */
  title: string;
  /** A sentence: what was found. */
  message: string;
  why: string;
  measured: string;
  limit: string;
  /** Measured as a share of the limit, where both are numbers. */
  share: number | null;
  parts: Id[];
  mend: Mend | null;
}

export interface CheckContext {
  kit: Kit;
  rulebook: Rulebook;
  blobs: Blobs;
}

/** What a check says; the runner adds where and how grave. */
export type Said = Pick<Finding, 'title' | 'message' | 'measured' | 'limit' | 'parts'> & { key?: string; share?: number; mend?: Mend };

export interface Check {
  id: string;
  family: string;
  stage: Stage;
  run(context: CheckContext, rule: Rule): Said[];
}
