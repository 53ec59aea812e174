import { createStore, type StoreApi } from 'zustand';
import type { Axis, Call, Id, KeyProperty, PoseDelta, Vec3 } from '@itchkit/core/document';
import type { BrushMode, CouplingValues, Fit, TestPose } from '@itchkit/core/rig';
import type { CopiedKeys, KeyRef } from '@itchkit/core/motion';

import type { Snap } from '../strip/snap-time';

export type Gizmo = 'move' | 'turn' | 'size';

/** What a click on the bench picks in Shape: parts, points on them, or faces of the one chosen part. */
export type PickMode = 'parts' | 'points' | 'faces';

/** A point that was picked on a part, in the part's own axes at rest, metres. */
export interface PickedPoint {
  part: Id;
  at: Vec3;
  kind: 'vertex' | 'edge' | 'face' | 'ring';
  /** Where its line goes: along an edge, off a face, along a ring's axis; null for a vertex. Not of unit length. */
  along: Vec3 | null;
  /** Of the ring. */
  radius?: number;
  /** The face it lies on and the edge nearest to it (0 to 2), by which a ring is found. */
  face: number;
  edge: number;
}

/** What Rig is at work on: joints, what they hold, poses to prove it, or rigid bodies. */
export type RigMode = 'joints' | 'weights' | 'poses' | 'bodies';

export interface RigState {
  mode: RigMode;
  /** A skeleton that is proposed, and the pins of it that were moved by hand, by key. */
  fit: { template: string; fit: Fit; moved: Record<string, Vec3>; mirrored: boolean } | null;
  /** Whether a joint's twin moves along. */
  symmetric: boolean;
  brush: { on: boolean; mode: BrushMode; radius: number; strength: number; through: boolean };
  /** Joints whose share of a vertex stays. */
  locked: Id[];
  pose: TestPose | null;
  /** How far couplings are moved to try them. */
  values: CouplingValues;
  /** Vertices that were picked for the table, of one part. */
  vertices: { part: Id; chosen: number[] } | null;
}

/** What Motion is at work on, and how its strip shows it. */
export interface MotionState {
  /** Whether moving a part on the bench writes keys; otherwise it is held there until it is keyed. */
  capture: boolean;
  /** Axes that neither the bench nor a typed value writes to. */
  locked: Axis[];
  /** Factor of the playback. */
  speed: number;
  /** Only this stretch of the clip is played, over and over, seconds. */
  range: [from: number, to: number] | null;
  /** Whether sounds are heard and effects seen. */
  cues: boolean;
  /** Overlays that are left out of what runs along. */
  quiet: Id[];
  /** What times are put onto when they are pointed at. */
  snap: Snap;
  /** The way of the chosen parts through the clip, and their neighbouring frames. */
  trail: boolean;
  /** The clip as the platform will play it. */
  asPlayed: boolean;
  /** Curves in the place of rows. */
  curves: boolean;
  rows: 'all' | 'moving' | 'chosen' | 'below';
  property: KeyProperty | 'all';
  /** Parts whose tracks are folded away. */
  folded: Id[];
  copied: CopiedKeys[] | null;
  /** Points of a path that is being placed on the bench, in the world, metres. */
  path: Vec3[] | null;
  /** Whether a part that is dragged is being recorded. */
  recording: 'off' | 'ready' | 'running';
}

/** What is in view and chosen; nothing of it is saved with the kit. */
export interface UiState {
  selection: Id[];
  clip: Id | null;
  /** Seconds since the clip was started; may run past its end while it loops. */
  time: number;
  playing: boolean;
  /** A clip that the pointer rests on in a list, shown on the bench while it does. */
  preview: Id | null;
  keys: KeyRef[];
  binding: Id | null;
  /** Value of each lever, by `leverKey`. */
  levers: Record<string, number>;
  /** A pose that a part was moved to on the bench and that is not written anywhere yet. */
  held: { part: Id; delta: PoseDelta } | null;
  gizmo: Gizmo | null;
  /** A hinge that is tried: dragging the part on the bench turns it about one of its own axes. */
  swing: { part: Id; axis: Axis } | null;
  pickMode: PickMode;
  /** The last three points that were picked. */
  picked: PickedPoint[];
  /** Faces of one part, counted through its mesh. */
  faces: { part: Id; chosen: ReadonlySet<number> } | null;
  /** How far a click spreads over faces, up to edges sharper than this; null takes the one face. */
  spreadDegrees: number | null;
  /** Operations that are tried on the bench before they are applied. */
  proposal: readonly Call[] | null;
  /** Whether the kit as it is stands on the left half of the bench beside the proposal. */
  compare: boolean;
  /** A level of detail that is looked at in Shape. */
  level: string | null;
  person: boolean;
  callouts: boolean;
  /** Whether the tiles that the kit covers are drawn, and which of the target's size classes as a box. */
  footprint: boolean;
  ghost: string | null;
  rig: RigState;
  motion: MotionState;
  /** Counts up each time the bench is asked to frame something; from a side, where one is named. */
  frameRequest: { parts: Id[]; nonce: number; from?: Vec3 };
}

export function createUiStore(): StoreApi<UiState> {
  const store = createStore<UiState>(() => ({
    selection: [],
    clip: null,
    time: 0,
    playing: false,
    preview: null,
    keys: [],
    binding: null,
    levers: {},
    held: null,
    gizmo: null,
    swing: null,
    pickMode: 'parts' as const,
    picked: [],
    faces: null,
    spreadDegrees: 20,
    proposal: null,
    compare: false,
    level: null,
    person: true,
    callouts: true,
    footprint: false,
    ghost: null,
    rig: {
      mode: 'joints',
      fit: null,
      symmetric: true,
      brush: { on: false, mode: 'add', radius: 0.08, strength: 0.25, through: false },
      locked: [],
      pose: null,
      values: {},
      vertices: null,
    },
    motion: {
      capture: true,
      locked: [],
      speed: 1,
      range: null,
      cues: true,
      quiet: [],
      snap: 'frame',
      trail: false,
      asPlayed: false,
      curves: false,
      rows: 'all',
      property: 'all',
      folded: [],
      copied: null,
      path: null,
      recording: 'off',
    },
    frameRequest: { parts: [], nonce: 0 },
  }));
  // A stretch is one of the clip in which it was set.
  store.subscribe(({ clip, motion }, before) => {
    if (clip !== before.clip && motion.range) store.setState({ motion: { ...motion, range: null } });
  });
  return store;
}
