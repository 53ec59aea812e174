import { poseKit, REST } from '@itchkit/core/trial';
import { LOOKED_AT } from '../../bench/bench-stage';
import { hold } from '../../bench/placement';
import type { StageDefinition } from '../stage';
import { WiringCard } from './WiringCard';
import { wiringSlice } from './wiring-state';
import { WiringStrip } from './WiringStrip';
import { WiringTools } from './WiringTools';

export const wiring: StageDefinition = {
  id: 'wiring',
  neededBy: ({ variables }) => variables.length > 0,
  Tools: WiringTools,
  Card: WiringCard,
  Strip: WiringStrip,
  bench: {
    ...LOOKED_AT,
    gizmo: true,
    pictured: false,
    pose(poser, { kit, blobs }, { preview, time, held, wiring: { levers } }, variables) {
      poseKit(poser, kit, blobs, preview === null ? { ...REST, levers, held } : { ...REST, clip: preview, time }, variables);
    },
    // A pose to be captured.
    moved: (part, placement, _, around) => hold(part, placement, around),
    sign: ({ kit, state: { held } }) => held && `“${kit.parts[held.part]?.name}” is held in a pose that is not written yet`,
  },
  framesChosen: true,
  keys: () => ({}),
  commands: () => [],
  slices: [wiringSlice],
};
