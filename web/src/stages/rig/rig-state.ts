import type { Id, Vec3 } from '@itchkit/core/document';
import type { BrushMode, CouplingValues, Fit, TestPose } from '@itchkit/core/rig';
import { slice } from '../../session/ui-store';

/** What Rig is at work on: joints, what they hold, poses to prove it, or rigid bodies. */
export type RigMode = 'joints' | 'weights' | 'poses' | 'bodies';

export interface RigState {
  mode: RigMode;
  /** Whether it was entered: the first time it begins with what this kit is rigged by. */
  entered: boolean;
  /** A skeleton that is proposed, and the pins of it that were moved by hand, by key. */
  fit: { template: string; fit: Fit; moved: Record<string, Vec3>; mirrored: boolean } | null;
  /** Whether a joint's twin moves along. */
  symmetric: boolean;
  brush: { on: boolean; mode: BrushMode; radius: number; strength: number; through: boolean };
  /** Joints whose share of a vertex stays. */
  locked: Id[];
  pose: TestPose | null;
  /** Edges of the triangles that run through one another in that pose, where it was measured: 6 numbers an edge, world, metres. */
  crossed: Float32Array | null;
  /** How far couplings are moved to try them. */
  values: CouplingValues;
  /** Vertices that were picked for the table, of one part. */
  vertices: { part: Id; chosen: number[] } | null;
}

declare module '../../session/ui-store' {
  interface UiState {
    rig: RigState;
  }
}

export const rigSlice = slice('rig', () => ({
  mode: 'joints',
  entered: false,
  fit: null,
  symmetric: true,
  brush: { on: false, mode: 'add', radius: 0.08, strength: 0.25, through: false },
  locked: [],
  pose: null,
  crossed: null,
  values: {},
  vertices: null,
}));
