import { poseKit, REST } from '@itchkit/core/trial';
import { LOOKED_AT } from '../../bench/bench-stage';
import { deltaOf } from '../../bench/placement';
import { setSlice } from '../../session/context';
import type { StageDefinition } from '../stage';
import { behaviourSlice } from './behaviour/behaviour-state';
import { groundsKeys } from './grounds/grounds-keys';
import { groundsSlice } from './grounds/grounds-state';
import { WiringCard } from './WiringCard';
import { wiringCommands } from './wiring-commands';
import { WiringOverlays } from './WiringOverlays';
import { wiringSlice } from './wiring-state';
import { WiringStrip } from './WiringStrip';
import { WiringTools } from './WiringTools';

export const wiring: StageDefinition = {
  id: 'wiring',
  neededBy: ({ variables, grounds, behaviours }) => variables.length > 0 || grounds !== undefined || behaviours !== undefined,
  Tools: WiringTools,
  Card: WiringCard,
  Strip: WiringStrip,
  bench: {
    ...LOOKED_AT,
    gizmo: true,
    pictured: false,
    pose(poser, { kit, blobs }, { preview, time, behaviour, wiring: { levers, posed } }, variables) {
      const held = Object.entries(posed).map(([part, delta]) => ({ part, delta }));
      const played = preview === null ? { ...REST, levers, held, body: behaviour.body?.pose } : { ...REST, clip: preview, time };
      poseKit(poser, kit, blobs, played, variables);
    },
    // Poses to be captured, of as many parts as are moved.
    moved(part, placement, _, { kit, ui }) {
      const { posed } = ui.getState().wiring;
      const delta = deltaOf(kit.parts[part], placement, posed[part]?.turn ?? [0, 0, 0]);
      setSlice(ui, 'wiring', { posed: { ...posed, [part]: delta } });
    },
    Overlays: WiringOverlays,
    sign({ kit, state: { wiring: own, proposal }, says }) {
      if (proposal) return `Tried, not done: ${says}`;
      const names = Object.keys(own.posed).flatMap((id) => (kit.parts[id] ? [`“${kit.parts[id].name}”`] : []));
      if (names.length === 0) return null;
      return names.length === 1
        ? `${names[0]} is held in a pose that is not written yet`
        : `${names.length} parts are held in poses that are not written yet: ${names.join(', ')}`;
    },
  },
  framesChosen: true,
  keys: groundsKeys,
  commands: wiringCommands,
  slices: [wiringSlice, groundsSlice, behaviourSlice],
};
