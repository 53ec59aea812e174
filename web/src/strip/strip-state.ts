import type { StoreApi } from 'zustand';
import type { Axis, Id, KeyProperty } from '@itchkit/core/document';
import type { CopiedKeys } from '@itchkit/core/motion';
import { slice, type UiState } from '../session/ui-store';
import type { Snap } from './snap-time';

/** How the strip shows clips and what is done to them there. */
export interface StripState {
  /** Whether moving a part on the bench writes keys; otherwise it is held there until it is keyed. */
  capture: boolean;
  /** Axes that neither the bench nor a typed value writes to. */
  locked: Axis[];
  /** Factor of the playback. */
  speed: number;
  /** Only this stretch of the clip is played, over and over, seconds. */
  range: [from: number, to: number] | null;
  /** What times are put onto when they are pointed at. */
  snap: Snap;
  /** The clip as the platform will play it. */
  asPlayed: boolean;
  /** Curves in the place of rows. */
  curves: boolean;
  rows: 'all' | 'moving' | 'chosen' | 'below';
  property: KeyProperty | 'all';
  /** Parts whose tracks are folded away. */
  folded: Id[];
  copied: CopiedKeys[] | null;
  /** Seconds that the chosen keys are being dragged by; they are not there yet. */
  draggedBy: number;
}

declare module '../session/ui-store' {
  interface UiState {
    strip: StripState;
  }
}

export const stripSlice = slice(
  'strip',
  () => ({
    capture: true,
    locked: [],
    speed: 1,
    range: null,
    snap: 'frame',
    asPlayed: false,
    curves: false,
    rows: 'all',
    property: 'all',
    folded: [],
    copied: null,
    draggedBy: 0,
  }),
  // A stretch is one of the clip in which it was set.
  (store: StoreApi<UiState>) =>
    store.subscribe(({ clip, strip }, before) => {
      if (clip !== before.clip && strip.range) store.setState({ strip: { ...strip, range: null } });
    }),
);
