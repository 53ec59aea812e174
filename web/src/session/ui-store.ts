import { createStore, type StoreApi } from 'zustand';
import type { Axis, Call, Id, PoseDelta, Vec3 } from '@itchkit/core/document';
import type { KeyRef } from '@itchkit/core/motion';

export type Gizmo = 'move' | 'turn' | 'size';

/** What a click on the bench picks: parts, points on them, or faces of the one chosen part. */
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

/**
 * What is in view and chosen; nothing of it is saved with the kit. A stage, or the strip, has a slice of its own and
 * says its type in a `declare module` beside it.
 */
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
  person: boolean;
  callouts: boolean;
  /** Counts up each time the bench is asked to frame something; from a side, where one is named. */
  frameRequest: { parts: Id[]; nonce: number; from?: Vec3 };
  /** Counts up each time a stage is asked to show something besides parts, by ids. */
  shown: { things: readonly Id[]; nonce: number };
}

type LetGo = readonly [holds: (state: UiState) => boolean, release: Partial<UiState> | ((state: UiState) => Partial<UiState>)];

/** What slices hold that is let go of before all else. */
const OF_SLICES: LetGo[] = [];

/** What Esc lets go of, the innermost first: a tried pose, a tool, what was picked with it, keys, parts. */
const INNERMOST: readonly LetGo[] = [
  [({ held }) => held !== null, { held: null }],
  [({ picked, faces }) => picked.length > 0 || (faces?.chosen.size ?? 0) > 0, { picked: [], faces: null }],
  [({ pickMode }) => pickMode !== 'parts', { pickMode: 'parts', faces: null }],
  [({ swing }) => swing !== null, { swing: null }],
  [({ gizmo }) => gizmo !== null, { gizmo: null }],
  [({ keys }) => keys.length > 0, { keys: [] }],
  [({ selection }) => selection.length > 0, { selection: [] }],
];

/** What the next Esc lets go of. */
export function innermost(state: UiState): Partial<UiState> {
  const release = [...OF_SLICES, ...INNERMOST].find(([holds]) => holds(state))?.[1] ?? {};
  return typeof release === 'function' ? release(state) : release;
}

/** A part of the interface's state that belongs to a stage, or to the strip. */
export interface Slice {
  name: keyof UiState;
  /** What a workspace begins with. */
  begin(): unknown;
  /** Keeps something of it true from then on. */
  watch?(store: StoreApi<UiState>): void;
}

/** @param letGo What of it Esc lets go of, before all else. */
export function slice<K extends keyof UiState>(
  name: K,
  begin: () => UiState[K],
  watch?: (store: StoreApi<UiState>) => void,
  letGo?: LetGo,
): Slice {
  if (letGo) OF_SLICES.push(letGo);
  return { name, begin, watch };
}

/** @param slices Those of every stage. */
export function createUiStore(slices: readonly Slice[]): StoreApi<UiState> {
  const shared = {
    selection: [],
    clip: null,
    time: 0,
    playing: false,
    preview: null,
    keys: [],
    binding: null,
    held: null,
    gizmo: null,
    swing: null,
    pickMode: 'parts' as const,
    picked: [],
    faces: null,
    spreadDegrees: 20,
    proposal: null,
    compare: false,
    person: true,
    callouts: true,
    frameRequest: { parts: [], nonce: 0 },
    shown: { things: [], nonce: 0 },
  };
  const own = Object.fromEntries(slices.map(({ name, begin }) => [name, begin()]));
  const store = createStore<UiState>(() => ({ ...shared, ...own }) as unknown as UiState);
  for (const { watch } of slices) watch?.(store);
  return store;
}
