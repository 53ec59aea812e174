import { shownMaterials } from './shown-materials';
import { budget } from './budget';

/** Materials that parts show. */
export const budgetsMaterials = budget({
  id: 'budgets.materials',
  stage: 'shape',
  about: 'Materials that parts show',
  unit: 'materials',
  title: 'Too many materials',
  what: 'The kit shows',
  measure: (context) => ({ value: shownMaterials(context).size, more: 'Each is a draw of its own; join those that look alike.' }),
});
