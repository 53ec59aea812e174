import type { ComponentType } from 'react';
import type { StoreApi } from 'zustand';
import type { Blobs, Id, Kit, Space } from '@itchkit/core/document';
import type { Bounds, Poser } from '@itchkit/core/geometry';
import type { Rulebook, Variable } from '@itchkit/core/rulebook';
import type { Run } from '../session/context';
import type { UiState } from '../session/ui-store';
import type { Tokens } from '../theme/tokens';
import type { BenchView, Placement } from './bench-view';

/** What stands on the bench. */
export interface Shown {
  kit: Kit;
  blobs: Blobs;
  /** The space of its numbers, where it is not the kit's own. */
  space?: Space;
}

/** What is drawn over the kit is given. */
export interface OverlayProps {
  view: BenchView;
  bounds: Bounds;
  tokens: Tokens;
}

/** What moving a part on the bench is told. */
export interface Moving {
  kit: Kit;
  ui: StoreApi<UiState>;
  run: Run;
}

/** What the sign on the bench may speak of. */
export interface SignAround {
  kit: Kit;
  state: UiState;
  /** What the tried operations would change. */
  says: string;
}

/**
 * How the bench stands in a stage: what is shown and how it is posed, what the pointer may do, what is drawn over it, what its sign says.
 */
export interface BenchStage {
  /** Whether parts of the kit are chosen by a click. */
  chooses: boolean;
  /** Whether the chosen part has handles. */
  gizmo: boolean;
  /** Whether points and faces are picked. */
  surfaces: boolean;
  /** Whether joints are drawn. */
  joints: boolean;
  /** Whether sizes can stand along the chart border. */
  sizes: boolean;
  /** Whether its pictures go onto the shelf: where the kit stands at rest. */
  pictured: boolean;
  /** Something else than the kit in view, where `key` is not null: worked out again when the kit or the key changes. */
  other?: { key(state: UiState): unknown; shown(kit: Kit, blobs: Blobs, key: never, rulebook: Rulebook | undefined): Shown };
  pose(poser: Poser, shown: Shown, state: UiState, variables: readonly Variable[]): void;
  /** A part was moved by its handles. @param done Whether they were let go. */
  moved?(part: Id, placement: Placement, done: boolean, around: Moving): void;
  Overlays?: ComponentType<OverlayProps>;
  sign(around: SignAround): string | null;
}

/** What a stage says that shows the kit at rest and changes nothing on the bench. */
export const LOOKED_AT = { chooses: true, gizmo: false, surfaces: false, joints: false, sizes: false, pictured: true } as const;
