import { clipsInOrder } from '../../document';
import { budget } from './budget';

/** Length of each clip. */
export const budgetsSeconds = budget({
  id: 'budgets.seconds',
  stage: 'motion',
  about: 'Length of each clip',
  unit: 'seconds',
  title: 'Clip too long',
  what: 'One clip runs',
  measure: ({ kit }) => clipsInOrder(kit).map((clip) => ({ key: clip.id, value: clip.lengthSeconds, more: `It is “${clip.name}”.` })),
});
