import type { Variable } from '@itchkit/core/rulebook';
import { poseKit, REST, type HeldPose, type PoseSource } from '@itchkit/core/trial';
import type { Poser } from '@itchkit/core/geometry';
import type { Shown } from '../bench/bench-stage';
import type { UiState } from '../session/ui-store';

/** Poses a kit at rest, or under a clip that the pointer rests on in a list. @param held A part that is held otherwise meanwhile. */
export function poseAtRest(
  poser: Poser,
  { kit, blobs }: Shown,
  { preview, time }: UiState,
  variables: readonly Variable[],
  held: HeldPose | null = null,
): void {
  const source: PoseSource = preview === null ? { ...REST, held: held === null ? [] : [held] } : { ...REST, clip: preview, time };
  poseKit(poser, kit, blobs, source, variables);
}
