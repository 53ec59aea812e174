import type { Rulebook, Stage } from '@itchkit/core';

export const STAGE_TITLES: Record<Stage, string> = { intake: 'Intake', shape: 'Shape', rig: 'Rig', motion: 'Motion', wiring: 'Wiring', trial: 'Trial', ship: 'Ship' };

/** The stages that have tools, in the order of the work. */
export const BUILT_STAGES: { id: Stage; title: string }[] = (['intake', 'shape', 'motion', 'wiring', 'trial', 'ship'] as const).map((id) => ({ id, title: STAGE_TITLES[id] }));

/** Those that a target needs: one without variables has nothing to wire, and no levers to try it with. */
export function stagesFor(rulebook: Rulebook | undefined): typeof BUILT_STAGES {
  return rulebook && rulebook.variables.length === 0 ? BUILT_STAGES.filter(({ id }) => id !== 'wiring' && id !== 'trial') : BUILT_STAGES;
}

/** The stage with tools in which a finding is looked at: its own, or the one before it in the order of the work. */
export function stageOfWork(stage: Stage): Stage {
  return stage === 'rig' ? 'shape' : stage;
}
