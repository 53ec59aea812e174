import type { Axis, Blobs, Call, CueKind, Easing, Id, Kit, LoopMode, Material, Part, Role, Space, Vec3 } from '../document';
import type { Bounds, Poser } from '../geometry';
import type { BehavioursRules } from '../behaviour';
import type { GroundsRules, SweptPart } from '../grounds';
import type { Direction } from '../wiring';

/** What `format` says in a rulebook of this version. */
export const RULEBOOK_FORMAT = 'itchkit.rulebook/1';
/** The stages in the order of the work, and what they are called. */
export const STAGE_TITLES = {
  intake: 'Intake',
  shape: 'Shape',
  rig: 'Rig',
  motion: 'Motion',
  wiring: 'Wiring',
  trial: 'Trial',
  ship: 'Ship',
} as const;
export type Stage = keyof typeof STAGE_TITLES;
/** The stages in the order of the work. */
export const STAGES = Object.keys(STAGE_TITLES) as Stage[];
/** How bad a finding is: it stops, it warns, or it is worth knowing. */
export const GRADES = ['stop', 'warn', 'note'] as const;
/** stop: no package; warn: it will be poorer; note: worth knowing. */
export type Grade = (typeof GRADES)[number];

export interface NamingPattern {
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
  /** The same, such that it can be measured; absent where nothing that moves shows it. */
  direction?: Direction;
  /** Where this says what is asked for, or how fast: the variable that says where it stands. */
  position?: string;
  /**
   * How it moves that: `to` the place that it asks for (its ends are the other one’s ends), at most so much a second; `at` a speed of so
   * much for each 1 that it asks for, up to the ends; `round` the same, and beginning again beyond them. In the unit of the other one.
   */
  moves?: { how: 'to' | 'at' | 'round'; perSecond: number };
  /** What it is worked out of, where it is a kit’s own; a rulebook has none. */
  expression?: string;
}

/** What a file of a package can hold. */
export const HOLDS = [
  'model',
  'model-at-rest',
  'level',
  'clip',
  'texture',
  'materials',
  'bindings-table',
  'switches-table',
  'clip-list',
  'assembly',
  'grounds-table',
  'behaviour-table',
] as const;
/** `clip` is a file a clip, `texture` a file an image, `level` a file a level of detail. */
export type Holds = (typeof HOLDS)[number];

export interface Output {
  /** Where the file stands in the package: `{kit}` is the kit's name, `{clip}`, `{texture}` and `{level}` those of each. */
  path: string;
  holds: Holds;
}

/** How big a thing may be, as the platform sorts it: metres to the side, up and forward. */
export interface SizeClass {
  name: string;
  max: Vec3;
  about: string;
}

/** How the two sides are told apart in names. */
export interface Sides {
  place: 'prefix' | 'suffix';
  left: string;
  right: string;
}

export interface RequiredPart {
  name: string;
  /** Name of the part below which it hangs; null at the top. */
  under: string | null;
  why: string;
}

export interface Naming {
  root: string;
  maxLength: number;
  patterns: NamingPattern[];
  /** Names that the platform keeps for itself, compared without case. */
  reserved?: string[];
  sides?: Sides;
  required?: RequiredPart[];
}

export interface Hierarchy {
  /** Which roles a part of a role may hang below. */
  parents?: { role: Role; under: Role[] }[];
  /** Variables in the order of their parts from the ground up. */
  drivenOrder?: string[];
  /** Names of parts that nothing moves. */
  anchors?: string[];
}

/** A part whose UVs have to lie as the platform lays them out. */
export interface FixedLayout {
  part: string;
  /** Of `uvLayout`: 16 hexadecimal digits. */
  fingerprint: string;
  about: string;
}

/** Where a rulebook can want a pivot. */
export const PIVOT_PLACES = ['anchor', 'inside', 'on-step', 'on-parent-axis'] as const;
export type PivotPlace = (typeof PIVOT_PLACES)[number];

export interface PivotRule {
  role: Role;
  place: PivotPlace;
  /** With `anchor`: −1, 0 or 1 an axis of the part's own bounds. */
  anchor?: Vec3;
  /** With `on-parent-axis`: which of the parent's own axes. */
  axis?: Axis;
}

export interface MaterialSlot {
  name: string;
  needed: boolean;
  about: string;
}

export interface Materials {
  slots?: MaterialSlot[];
  /** Media types of images. */
  formats?: string[];
  alphaModes?: Material['alphaMode'][];
}

export interface SkeletonJoint {
  name: string;
  /** Null for the topmost. */
  parent: string | null;
  needed: boolean;
}

export interface ClipSlot {
  name: string;
  needed: boolean;
  /** Null where any will do. */
  loop: LoopMode | null;
  about: string;
}

/** What a platform can play of a part. */
export const TRACK_KINDS = ['offset', 'turn', 'rotation', 'size', 'shown', 'weights'] as const;
export type TrackKind = (typeof TRACK_KINDS)[number];

export interface MotionRules {
  clips?: ClipSlot[];
  /** Frames a second. */
  rate?: number;
  easings?: Easing[];
  /** What a clip may move; `rotation` is a dense one. */
  tracks?: TrackKind[];
  /** Loop modes that the platform plays. */
  loops?: LoopMode[];
  /** Whether clips that are overlays run along with the others. */
  overlays?: boolean;
  /** Kinds of cues that the platform hears. */
  cues?: CueKind[];
  /** Name of the clip that is the rest pose, and comes first. */
  rest?: string;
}

export interface Rule {
  id: string;
  check: string;
  grade: Grade;
  why: string;
  /** What the check measures against, where it is a number; its unit is the check's. */
  limit?: number;
  /** Roles that the rule speaks of; all parts where left out. */
  roles?: Role[];
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
  sizeClasses?: SizeClass[];
  naming: Naming;
  hierarchy?: Hierarchy;
  pivots?: PivotRule[];
  materials?: Materials;
  uv?: { layouts?: FixedLayout[] };
  /** Levels of detail, the nearest first. */
  levels?: { name: string; share: number; about: string }[];
  skeleton?: SkeletonJoint[];
  motion?: MotionRules;
  /** How things stand on tiles; absent where there are none. */
  grounds?: GroundsRules;
  /** What is played by values that the game passes in; absent where there is nothing of it. */
  behaviours?: BehavioursRules;
  variables: Variable[];
  /** Whether tables may go from row to row in a curve that overshoots none of them. */
  tableCurves?: boolean;
  /** Whether between two rows of a table each turn goes the short way round. */
  shortTurns?: boolean;
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
  /** Where there is more than one way, all of them, the first of them as above; a person chooses. */
  ways?: MendWay[];
  /** Whether the ways are told apart by looking at the parts. */
  looks?: boolean;
}

/** One way of several to mend something. */
export interface MendWay {
  title: string;
  call: Call;
  changes: string[];
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
  /** What it is about besides parts, by ids: states, passages, clips of a mix. */
  things?: Id[];
  mend: Mend | null;
  /** The reason with which a person set it aside; never on a stop. */
  aside: string | null;
}

/** How a finding can be mended: at once without asking, with a preview, or by hand alone (null). */
export function mendKind({ mend }: Pick<Finding, 'mend'>): 'safe' | 'asking' | null {
  if (mend === null) return null;
  return mend.safe ? 'safe' : 'asking';
}

export interface CheckContext {
  /** What a check reads of it is noted, so that it runs again only when that changes. */
  kit: Kit;
  rulebook: Rulebook;
  blobs: Blobs;
  /** Every part, parents before children. */
  parts: Part[];
  /** Every part's children, in order; those at the top under null. */
  childrenOf(parent: Id | null): Part[];
  /** At rest. */
  rest(): Poser;
  /** World bounds at rest of the parts that show a mesh. */
  bounds(): Map<Id, Bounds>;
  /** World bounds of each part over all frames of all clips, metres, and when it comes to each of their sides. */
  swept(): Map<Id, SweptPart>;
  /**
   * Worked out once for all checks of a run, and again only when what it read has changed: of what it is given, not of what was read
   * before. It must keep no records of the kit.
   */
  once<T>(key: string, compute: (context: CheckContext) => T): T;
}

/** What is owed to one target, by stage. */
export type OwedByStage = Partial<Record<Stage, Record<Grade, number>>>;

/** What a check says; the runner adds where and how grave. */
export type Said = Pick<Finding, 'title' | 'message' | 'measured' | 'limit' | 'parts' | 'things'> & {
  key?: string;
  share?: number;
  mend?: Mend;
};

export interface Check {
  id: string;
  family: string;
  stage: Stage;
  /** A few words on what it looks at, for lists of checks. */
  about: string;
  /** Unit of the rule's limit; absent where the check takes none. */
  limit?: string;
  /** What the rulebook has to say for the check to have anything to go by; null where it says it. */
  needs?(rulebook: Rulebook): string | null;
  run(context: CheckContext, rule: Rule): Said[];
}
