import type { Kit } from '@itchkit/core/document';
import type { Poser } from '@itchkit/core/geometry';
import { poseAssembly, strikePose } from '@itchkit/core/rig';
import { LOOKED_AT, type SignAround } from '../../bench/bench-stage';
import type { StageDefinition } from '../stage';
import { rigCommands } from './rig-commands';
import { RigCard } from './RigCard';
import { RigOverlays } from './RigOverlays';
import { rigSlice, type RigState } from './rig-state';
import { RigTools } from './RigTools';

const RIGGED = /^(skin|assembly)\./;

/** Poses a kit as Rig shows it: at rest, in a test pose, or with its assembly moved to try it. */
function poseForRig(poser: Poser, kit: Kit, { mode, pose, values }: RigState): void {
  if (pose) strikePose(kit, poser, pose);
  else if (mode === 'bodies' && Object.keys(values).length > 0) poseAssembly(kit, poser, values);
  else {
    poser.reset();
    poser.update();
  }
}

function rigSign({ state: { proposal, rig, pickMode }, says }: SignAround): string | null {
  if (proposal) return `Tried, not done: ${says}`;
  if (rig.pose) return `Test pose: ${rig.pose.title}. R brings back rest, which is never touched`;
  if (rig.fit) return 'Proposed joints: drag any pin; nothing is made yet';
  if (pickMode === 'parts' && rig.mode === 'weights' && rig.brush.on) return 'Brushing weights; Alt takes away';
  if (Object.keys(rig.values).length > 0) return 'Moved to try it; nothing of it is kept';
  if (pickMode === 'points') return 'Click corners, edges and faces: for pivots, hinges and measures';
  return pickMode === 'faces' ? 'Click or brush faces; Alt lets them go' : null;
}

export const rig: StageDefinition = {
  id: 'rig',
  neededBy: ({ skeleton, rules }) => skeleton !== undefined || rules.some(({ check }) => RIGGED.test(check)),
  Tools: RigTools,
  Card: RigCard,
  Strip: null,
  bench: {
    ...LOOKED_AT,
    surfaces: true,
    joints: true,
    pose: (poser, { kit }, state) => poseForRig(poser, kit, state.rig),
    Overlays: RigOverlays,
    sign: rigSign,
  },
  framesChosen: true,
  keys: () => ({}),
  commands: rigCommands,
  slices: [rigSlice],
};
