import type { Axis, Id } from '@itchkit/core/document';
import { slice } from '../../session/ui-store';

export interface ShapeState {
  /** A level of detail that is looked at. */
  level: string | null;
  /** Whether the tiles that the kit covers are drawn, and which of the target's size classes as a box. */
  footprint: boolean;
  ghost: string | null;
  /** The own axis that was laid along a hinge last. */
  hinge: { part: Id; axis: Axis } | null;
}

declare module '../../session/ui-store' {
  interface UiState {
    shape: ShapeState;
  }
}

export const shapeSlice = slice('shape', () => ({ level: null, footprint: false, ghost: null, hinge: null }));
