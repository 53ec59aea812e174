import { budget } from './budget';

/** Clips of the kit. */
export const budgetsClips = budget({
  id: 'budgets.clips',
  stage: 'motion',
  about: 'Clips of the kit',
  unit: 'clips',
  title: 'Too many clips',
  what: 'The kit has',
  measure: ({ kit }) => ({ value: Object.keys(kit.clips).length }),
});
