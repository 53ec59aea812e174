import type { Rulebook, Stage } from '@itchkit/core/rulebook';

export const STAGE_TITLES: Record<Stage, string> = {
  intake: 'Intake',
  shape: 'Shape',
  rig: 'Rig',
  motion: 'Motion',
  wiring: 'Wiring',
  trial: 'Trial',
  ship: 'Ship',
};

/** The stages that have tools, in the order of the work. */
export const BUILT_STAGES: { id: Stage; title: string }[] = (['intake', 'shape', 'rig', 'motion', 'wiring', 'trial', 'ship'] as const).map(
  (id) => ({ id, title: STAGE_TITLES[id] }),
);

const RIGGED = /^(skin|assembly)\./;

/** Those that a target needs: one without variables has nothing to wire, and no levers to try it with; one that asks nothing of joints and bodies needs no Rig. */
export function stagesFor(rulebook: Rulebook | undefined): typeof BUILT_STAGES {
  if (!rulebook) return BUILT_STAGES;
  const wired = rulebook.variables.length > 0;
  const rigged = rulebook.skeleton !== undefined || rulebook.rules.some(({ check }) => RIGGED.test(check));
  return BUILT_STAGES.filter(({ id }) => (wired || (id !== 'wiring' && id !== 'trial')) && (rigged || id !== 'rig'));
}
