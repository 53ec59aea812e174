import { createStore, type StoreApi } from 'zustand';
import type { Call, Id, KeyRef, PoseDelta } from '@itchkit/core';

export type Gizmo = 'move' | 'turn' | 'size';

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
  /** An operation that is tried on the bench before it is applied. */
  proposal: Call | null;
  person: boolean;
  callouts: boolean;
  /** Counts up each time the bench is asked to frame something. */
  frameRequest: { parts: Id[]; nonce: number };
}

export function createUiStore(): StoreApi<UiState> {
  return createStore(() => ({
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
    proposal: null,
    person: true,
    callouts: true,
    frameRequest: { parts: [], nonce: 0 },
  }));
}
