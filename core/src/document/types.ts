/**
 * The kit document: plain JSON, small enough to patch and diff. Arrays live outside it as blobs named by SHA-256.
 *
 * Canonical space: metres, +Y up, +Z forward, right-handed (glTF 2.0, section 3.4).
 */
import type { Accessor, Sha } from './blobs';

export type Id = string;
export type Vec3 = [number, number, number];
/** Unit quaternion x, y, z, w. */
export type Quat = [number, number, number, number];
export type Rgba = [number, number, number, number];
export type Axis = 0 | 1 | 2;

export const KIT_FORMAT = 'itchkit.kit/1';

export const ROLES = ['base', 'seat', 'driven', 'joint', 'mount', 'shell', 'marker'] as const;
export type Role = (typeof ROLES)[number];

/** The order in which turns about the own axes are multiplied: `xyz` is rest · Rx · Ry · Rz. */
export const TURN_ORDERS = ['xyz', 'xzy', 'yxz', 'yzx', 'zxy', 'zyx'] as const;
export type TurnOrder = (typeof TURN_ORDERS)[number];

/** A node of the kit as people see it. Its origin is its pivot. */
export interface Part {
  id: Id;
  name: string;
  role: Role | null;
  parent: Id | null;
  /** Place among its siblings, ascending. */
  order: number;
  /** Rest translation in the parent's axes, metres. */
  translation: Vec3;
  rotation: Quat;
  scale: Vec3;
  turnOrder: TurnOrder;
  mesh: Id | null;
  skin: Id | null;
  /** Hidden on the bench only; a hidden part is packaged all the same. */
  hidden: boolean;
  /** Of a joint without a child to reach to: where it ends, in its own axes, metres. Absent where nobody said so. */
  tail?: Vec3;
  /** Of a joint: how far it can bend either way, degrees, as test poses do. Absent where nobody said so; then its name tells. */
  bendDegrees?: number;
  /** Its path in the file it came from; absent on parts made here. It survives renaming, so that a new version finds it. */
  from?: string;
}

export interface Primitive {
  material: Id | null;
  /** glTF attribute semantics (POSITION, NORMAL, TANGENT, TEXCOORD_n, COLOR_n, JOINTS_n, WEIGHTS_n). */
  attributes: Record<string, Accessor>;
  /** Triangle list, three u32 a triangle. */
  indices: Accessor;
  /** What each morph target adds to POSITION, NORMAL and TANGENT (3 numbers a vertex); absent where the mesh has none. */
  targets?: Record<string, Accessor>[];
}

/** Points, or single lines: kept, shown and packaged beside the triangles. They count as vertices, and no check of surfaces reads them. */
export interface Stroke {
  mode: 'points' | 'lines';
  material: Id | null;
  /** glTF attribute semantics; no joints and no weights. */
  attributes: Record<string, Accessor>;
  /** One u32 a point, two a line. */
  indices: Accessor;
}

export interface MorphTarget {
  name: string;
  /** At rest. */
  weight: number;
}

/** A simpler shape of a mesh, for a distance. */
export interface MeshLevel {
  /** As the target calls it. */
  name: string;
  /** How far it lies from the mesh, millimetres. */
  errorMm: number;
  primitives: Primitive[];
}

export interface Mesh {
  id: Id;
  name: string;
  primitives: Primitive[];
  /** Absent where there are none. They go when the mesh is changed, and are made again. */
  levels?: MeshLevel[];
  /** Absent where the mesh has none. */
  strokes?: Stroke[];
  /** As many as each primitive's `targets`; absent where there are none. */
  targets?: MorphTarget[];
}

export interface TextureSlot {
  image: Id;
  /** Which TEXCOORD set it reads. */
  texCoord: number;
  /** glTF sampler constants. */
  wrapS: number;
  wrapT: number;
  /** KHR_texture_transform: turn in radians. */
  transform?: { offset: [number, number]; rotation: number; scale: [number, number] };
}

/** What a glTF material extension says: numbers and textures by the names of its specification. */
export interface MaterialExtension {
  factors: Record<string, number | number[]>;
  textures: Record<string, TextureSlot>;
}

export interface Material {
  id: Id;
  name: string;
  /** Linear RGBA, 0 to 1. */
  baseColor: Rgba;
  baseColorTexture: TextureSlot | null;
  metallic: number;
  roughness: number;
  metallicRoughnessTexture: TextureSlot | null;
  normalTexture: TextureSlot | null;
  normalScale: number;
  occlusionTexture: TextureSlot | null;
  emissive: Vec3;
  emissiveTexture: TextureSlot | null;
  alphaMode: 'OPAQUE' | 'MASK' | 'BLEND';
  alphaCutoff: number;
  doubleSided: boolean;
  /** By name of the extension; kept and written out again. */
  extensions?: Record<string, MaterialExtension>;
}

export interface Image {
  id: Id;
  name: string;
  mediaType: string;
  blob: Sha;
  bytes: number;
  /** Pixels. */
  width: number;
  height: number;
}

export interface Skin {
  id: Id;
  name: string;
  joints: Id[];
  /** One 4×4 column-major matrix a joint. */
  inverseBindMatrices: Accessor;
}

/** Penner's families of easings, each in three ways (d3-ease). */
export const EASING_FAMILIES = ['sine', 'quad', 'cubic', 'back', 'bounce', 'elastic'] as const;
export const EASING_WAYS = ['in', 'out', 'both'] as const;
export type EasingFamily = (typeof EASING_FAMILIES)[number];
export type EasingWay = (typeof EASING_WAYS)[number];
/** How a key moves on to the next one. `bounce` is `bounce-out` by its older name. */
export type Easing = 'hold' | 'straight' | 'curve' | 'bounce' | `${EasingFamily}-${EasingWay}`;
export const EASINGS: readonly Easing[] = [
  'hold',
  'straight',
  'curve',
  'bounce',
  ...EASING_FAMILIES.flatMap((family) => EASING_WAYS.map((way): Easing => `${family}-${way}`)),
];

export interface Key {
  /** Seconds from the clip's start. */
  time: number;
  value: number;
  easing: Easing;
  /** Tangents of a curve into and out of the key, value a second; where absent they are chosen so that it never overshoots. */
  slopeIn?: number;
  slopeOut?: number;
}

export const KEY_PROPERTIES = ['offset', 'turn', 'size', 'shown', 'weight'] as const;
export type KeyProperty = (typeof KEY_PROPERTIES)[number];

/**
 * Sparse keys of one number, relative to rest: metres in the parent's axes, degrees about an own axis, a factor; whether the part and what is
 * below it is shown (from 0.5 on it is); or the weight of a morph target, as it is.
 */
export interface KeyTrack {
  kind: 'keys';
  id: Id;
  part: Id;
  property: KeyProperty;
  /** 0 for `shown`; the number of the morph target for `weight`. */
  axis: number;
  /** Ascending in time, no two at the same time. */
  keys: Key[];
}

/** Dense motion, relative to rest: `offset` (3), `rotation` (unit quaternion after rest, 4), `size` (3); or `weights`, one a morph target, as they are. */
export interface SampleTrack {
  kind: 'samples';
  id: Id;
  part: Id;
  property: 'offset' | 'rotation' | 'size' | 'weights';
  /** `curve` is glTF's CUBICSPLINE: in-tangent, value, out-tangent a key. */
  interpolation: 'hold' | 'straight' | 'curve';
  times: Accessor;
  values: Accessor;
}

/** One number by an expression of time, in the unit of a key track (see `motion/formula.ts`). */
export interface FormulaTrack {
  kind: 'formula';
  id: Id;
  part: Id;
  property: Exclude<KeyProperty, 'shown'>;
  axis: number;
  source: string;
  /** What its value is multiplied by, so that another unit or direction leaves the expression as it was written. */
  gain: number;
}

export type Track = KeyTrack | SampleTrack | FormulaTrack;

export const CUE_KINDS = ['sound', 'effect', 'message'] as const;
export type CueKind = (typeof CUE_KINDS)[number];

/** Something that a clip says at a time. */
export interface Cue {
  id: Id;
  /** Seconds. */
  time: number;
  kind: CueKind;
  /** Of the sound or the effect; of a message the text. */
  name: string;
  /** Where it comes from; null for the kit as a whole. */
  part: Id | null;
}

export const FLAG_COLOURS = ['sea', 'signal', 'good', 'note'] as const;

/** A time on the ruler by a name. */
export interface Flag {
  id: Id;
  time: number;
  name: string;
  colour: (typeof FLAG_COLOURS)[number];
}

/** A clip that runs all the time with the others. */
export interface Overlay {
  /** Whether the others have their way where both move something, or this one. */
  place: 'under' | 'over';
  /** Whether it comes to what the others do, or takes its place. */
  mode: 'add' | 'replace';
  /** The parts it moves; null for all it has tracks for. */
  parts: Id[] | null;
}

export const LOOP_MODES = ['once', 'loop', 'ping-pong', 'hold'] as const;
/** `once` shows rest again after the end; `hold` stays on the last pose. */
export type LoopMode = (typeof LOOP_MODES)[number];

export interface Clip {
  id: Id;
  name: string;
  order: number;
  lengthSeconds: number;
  /** Frames a second. */
  rate: number;
  loop: LoopMode;
  tracks: Track[];
  /** All of these are absent where there is nothing to say. */
  group?: string;
  overlay?: Overlay;
  cues?: Cue[];
  flags?: Flag[];
  /** Named numbers that formulas of this clip may use. */
  constants?: Record<string, number>;
}

export const OUTSIDES = ['clamp', 'extend', 'wrap'] as const;
/** What a binding does beyond its table: stay at the end row, go on straight, or begin again. */
export type Outside = (typeof OUTSIDES)[number];

/** A pose relative to rest: metres in the parent's axes, degrees about the own axes, factors. */
export interface PoseDelta {
  offset: Vec3;
  turn: Vec3;
  size: Vec3;
}

export interface BindingRow extends PoseDelta {
  /** In the variable's unit. */
  value: number;
}

/** One variable moving one part along a table of value-to-pose rows. The first row is the neutral one. */
export interface Binding {
  id: Id;
  variable: string;
  /** From 0; null where the variable has no index. */
  index: number | null;
  part: Id;
  rows: BindingRow[];
  outside: Outside;
}

/** Motion or wiring whose part went with a new version of the source: kept, and can be given to another part. */
export type Parked = { id: Id; partName: string } & ({ kind: 'track'; clip: Id; track: Track } | { kind: 'binding'; binding: Binding });

/** A finding that a person has set aside for a target, and why. */
export interface Aside {
  rulebook: string;
  finding: string;
  reason: string;
}

/** How many points each kind of measure has. */
export const CALLOUT_POINTS = { distance: 2, angle: 3, radius: 3 } as const;

/** A measure that is kept with the kit, between points in the axes of parts, metres. */
export interface Callout {
  id: Id;
  kind: keyof typeof CALLOUT_POINTS;
  points: { part: Id; at: Vec3 }[];
}

/** Parts that are held together and move as one. Its axes are those of its first part. */
export interface Body {
  id: Id;
  name: string;
  parts: Id[];
  /** Whether it stands still, whatever moves. */
  anchored: boolean;
}

export const COUPLING_KINDS = ['hinge', 'slider', 'ball'] as const;
export type CouplingKind = (typeof COUPLING_KINDS)[number];

/** What lets one body move against another: about a line, along it, or about a point. */
export interface Coupling {
  id: Id;
  name: string;
  kind: CouplingKind;
  /** The body that holds, and the one that is held. */
  from: Id;
  to: Id;
  /** In the axes of the holding body, metres. */
  at: Vec3;
  /** Unit vector in those axes: of the hinge, of the slide, or of the middle of the ball's cone. */
  axis: Vec3;
  /** Degrees, metres for a slider, from where the bodies stand at rest; null where nothing stops it. A ball has a greatest swing alone. */
  min: number | null;
  max: number | null;
}

export const SIGNED_AXES = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;
export type SignedAxis = (typeof SIGNED_AXES)[number];

/** How a platform or a file measures space. */
export interface Space {
  metresPerUnit: number;
  up: SignedAxis;
  forward: SignedAxis;
  handedness: 'right' | 'left';
}

export interface ReadingNote {
  grade: 'note' | 'warn';
  code: string;
  message: string;
  part: string | null;
}

/** What was taken in, and what the file said of itself. */
export interface Source {
  fileName: string;
  format: string;
  bytes: number;
  sha: Sha;
  generator: string | null;
  /** The space the numbers of the file are taken to be in. */
  space: Space;
  /** Whether a person has settled unit and axes. */
  settled: boolean;
  notes: ReadingNote[];
  /** Counts as read, before any change; joints and morph targets are not in kits of older versions. */
  counts: {
    parts: number;
    meshes: number;
    triangles: number;
    vertices: number;
    materials: number;
    images: number;
    skins: number;
    clips: number;
    joints?: number;
    morphTargets?: number;
  };
}

export interface Kit {
  format: typeof KIT_FORMAT;
  name: string;
  /** Rulebooks the kit is prepared for; the first is the one in view. */
  targets: { rulebook: string; version: string }[];
  source: Source | null;
  parts: Record<Id, Part>;
  meshes: Record<Id, Mesh>;
  materials: Record<Id, Material>;
  images: Record<Id, Image>;
  skins: Record<Id, Skin>;
  clips: Record<Id, Clip>;
  bindings: Record<Id, Binding>;
  /** Absent where nothing is parked. */
  parked?: Parked[];
  /** Absent where nothing was ever set aside. */
  asides?: Aside[];
  /** Absent where nothing measured is kept. */
  callouts?: Callout[];
  /** Rigid assembly; both absent where the kit is none. */
  bodies?: Body[];
  couplings?: Coupling[];
  /** Which joint is for what in a motion (`thigh_l`, `hips`) where its name does not say so, or says it wrongly; null for none. Those that are gone say nothing. */
  motionRoles?: Record<string, Id | null>;
}
