import type { Blobs, Kit } from '@itchkit/core/document';
import { poseKit, REST, trialFor } from '@itchkit/core/trial';
import { LOOKED_AT } from '../../bench/bench-stage';
import { playTrial, trialSlice, type InTrial } from '../../trials/trial-state';
import type { StageDefinition } from '../stage';
import { TrialCard } from './TrialCard';
import { TrialOverlays } from './TrialOverlays';
import { TrialControls } from './TrialControls';
import { TrialTools } from './TrialTools';

export const trial: StageDefinition = {
  id: 'trial',
  neededBy: (rulebook) => trialFor(rulebook) !== undefined,
  Tools: TrialTools,
  Card: TrialCard,
  Strip: TrialControls,
  bench: {
    ...LOOKED_AT,
    chooses: false,
    pictured: false,
    other: {
      key: (state) => state.trial.loaded,
      shown: (_kit: Kit, _blobs: Blobs, { kit, blobs, manifest }: InTrial) => ({ kit, blobs, space: manifest.space }),
    },
    pose(poser, { kit, blobs }, { trial: { clip, time, levers, held, body, quiet } }, variables) {
      poseKit(poser, kit, blobs, { ...REST, clip, time, levers, held, body: body?.pose, quiet: quiet ?? undefined }, variables);
    },
    Overlays: TrialOverlays,
    sign: () => null,
  },
  framesChosen: false,
  keys: ({ ui }) => ({ play: () => playTrial(ui) }),
  commands: () => [],
  slices: [trialSlice],
};
