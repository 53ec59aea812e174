import { LOOKED_AT } from '../../bench/bench-stage';
import { poseAtRest } from '../at-rest';
import type { StageDefinition } from '../stage';
import { PackageList } from './PackageList';
import { ShipCard } from './ShipCard';
import { ShipTools } from './ShipTools';

export const ship: StageDefinition = {
  id: 'ship',
  neededBy: () => true,
  Tools: ShipTools,
  Card: ShipCard,
  Strip: PackageList,
  bench: { ...LOOKED_AT, pose: poseAtRest, sign: () => null },
  framesChosen: true,
  keys: () => ({}),
  commands: () => [],
  slices: [],
};
