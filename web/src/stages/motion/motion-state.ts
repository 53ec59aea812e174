import type { Id, Vec3 } from '@itchkit/core/document';
import { slice } from '../../session/ui-store';

/** What Motion is at work on, besides what its strip shows. */
export interface MotionState {
  /** Whether sounds are heard and effects seen. */
  cues: boolean;
  /** Overlays that are left out of what runs along. */
  quiet: Id[];
  /** The way of the chosen parts through the clip, and their neighbouring frames. */
  trail: boolean;
  /** Whether the view goes along with the body. */
  follow: boolean;
  /** Points of a path that is being placed on the bench, in the world, metres. */
  path: Vec3[] | null;
  /** Whether a part that is dragged is being recorded. */
  recording: 'off' | 'ready' | 'running';
}

declare module '../../session/ui-store' {
  interface UiState {
    motion: MotionState;
  }
}

export const motionSlice = slice('motion', () => ({ cues: true, quiet: [], trail: false, follow: false, path: null, recording: 'off' }));
