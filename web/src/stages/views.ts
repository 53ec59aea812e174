import type { ComponentType } from 'react';
import type { Stage } from '@itchkit/core/rulebook';
import { IntakeCard } from './intake/IntakeCard';
import { IntakeTools } from './intake/IntakeTools';
import { MotionCard } from './motion/MotionCard';
import { MotionTools } from './motion/MotionTools';
import { Strip } from '../strip/Strip';
import { RigCard } from './rig/RigCard';
import { RigTools } from './rig/RigTools';
import { ShapeCard } from './shape/ShapeCard';
import { ShapeTools } from './shape/ShapeTools';
import { ShipCard } from './ship/ShipCard';
import { ShipTools } from './ship/ShipTools';
import { PackageList } from './ship/PackageList';
import { TrialCard } from './trial/TrialCard';
import { TrialLevers } from './trial/TrialLevers';
import { TrialTools } from './trial/TrialTools';
import { WiringCard } from './wiring/WiringCard';
import { WiringStrip } from './wiring/WiringStrip';
import { WiringTools } from './wiring/WiringTools';

interface StageView {
  Tools: ComponentType;
  Card: ComponentType;
  Strip?: ComponentType;
}

export const STAGE_VIEWS: Partial<Record<Stage, StageView>> = {
  intake: { Tools: IntakeTools, Card: IntakeCard },
  shape: { Tools: ShapeTools, Card: ShapeCard },
  rig: { Tools: RigTools, Card: RigCard },
  motion: { Tools: MotionTools, Card: MotionCard, Strip },
  wiring: { Tools: WiringTools, Card: WiringCard, Strip: WiringStrip },
  trial: { Tools: TrialTools, Card: TrialCard, Strip: TrialLevers },
  ship: { Tools: ShipTools, Card: ShipCard, Strip: PackageList },
};
