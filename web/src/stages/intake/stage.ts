import { LOOKED_AT } from '../../bench/bench-stage';
import { poseAtRest } from '../at-rest';
import type { StageDefinition } from '../stage';
import { IntakeCard } from './IntakeCard';
import { IntakeTools } from './IntakeTools';

export const intake: StageDefinition = {
  id: 'intake',
  neededBy: () => true,
  Tools: IntakeTools,
  Card: IntakeCard,
  Strip: null,
  bench: { ...LOOKED_AT, joints: true, sizes: true, pose: poseAtRest, sign: () => null },
  framesChosen: true,
  keys: () => ({}),
  commands: () => [],
  slices: [],
};
