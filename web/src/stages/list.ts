import { STAGES as ORDER, type Rulebook } from '@itchkit/core/rulebook';
import { intake } from './intake/stage';
import { motion } from './motion/stage';
import { rig } from './rig/stage';
import { shape } from './shape/stage';
import { ship } from './ship/stage';
import type { StageDefinition } from './stage';
import { trial } from './trial/stage';
import { wiring } from './wiring/stage';

/** The stages, in the order of the work. */
export const STAGES: readonly StageDefinition[] = [intake, shape, rig, motion, wiring, trial, ship].sort(
  (a, b) => ORDER.indexOf(a.id) - ORDER.indexOf(b.id),
);

/** Those that a target needs. */
export function stagesFor(rulebook: Rulebook | undefined): readonly StageDefinition[] {
  return rulebook ? STAGES.filter((stage) => stage.neededBy(rulebook)) : STAGES;
}
