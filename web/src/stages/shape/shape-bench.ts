import { callOf, type Vec3 } from '@itchkit/core/document';
import { atLevel } from '@itchkit/core/geometry';
import { setTransform } from '@itchkit/core/shape';
import { LOOKED_AT, type BenchStage, type SignAround } from '../../bench/bench-stage';
import type { Placement } from '../../bench/bench-view';
import { tidy } from '../../bench/placement';
import type { Gizmo } from '../../session/ui-store';
import { poseAtRest } from '../at-rest';
import { ShapeOverlays } from './ShapeOverlays';

const tidied = (values: Vec3) => values.map((value) => tidy(value, 5)) as Vec3;

/** What the handles changed, of a part's rest. */
const FIELDS: Record<Gizmo, (placement: Placement) => Partial<Placement>> = {
  move: ({ translation }) => ({ translation: tidied(translation) }),
  turn: ({ rotation }) => ({ rotation }),
  size: ({ scale }) => ({ scale: tidied(scale) }),
};

/** The kit at rest, which the handles change; a level of detail in its place where one is looked at. */
export const shapeBench: BenchStage = {
  ...LOOKED_AT,
  gizmo: true,
  surfaces: true,
  sizes: true,
  other: { key: ({ shape }) => shape.level, shown: (kit, blobs, level: string) => ({ kit: atLevel(kit, level), blobs }) },
  // A hinge that is tried holds its part.
  pose: (poser, shown, state, variables) => poseAtRest(poser, shown, state, variables, state.held),
  moved(part, placement, done, { ui, run }) {
    const { gizmo } = ui.getState();
    if (done && gizmo) run(callOf(setTransform, { part, ...FIELDS[gizmo](placement) }));
  },
  Overlays: ShapeOverlays,
  sign: shapeSign,
};

function shapeSign({ kit, state: { held, swing, compare, proposal, pickMode, gizmo }, says }: SignAround): string | null {
  const nameOf = (part: string) => kit.parts[part]?.name;
  if (held) return `“${nameOf(held.part)}” swings by ${Math.hypot(...held.delta.turn).toFixed(0)}° to try its hinge; nothing is kept`;
  if (swing) return `Drag “${nameOf(swing.part)}” to try its hinge`;
  if (proposal) return compare ? 'Left: as it is. Right: as it would be' : `Tried, not done: ${says}`;
  if (pickMode === 'points') return 'Click corners, edges and faces: for pivots, hinges and measures';
  if (pickMode === 'faces') return 'Click or brush faces; Alt lets them go';
  return gizmo ? 'Rest: moving a part changes the model' : null;
}
