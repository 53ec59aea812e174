import { jointsOf } from '../../document';
import { budget } from './budget';

/** Joints of all skins together. */
export const budgetsJoints = budget({
  id: 'budgets.joints',
  stage: 'rig',
  about: 'Joints of all skins together',
  unit: 'joints',
  title: 'Too many joints',
  what: 'The kit has',
  measure: ({ kit }) => ({ value: jointsOf(kit).size }),
});
