import { count } from '../wording';
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
  measure: (context) => {
    const users = shownMaterials(context);
    return {
      value: users.size,
      more: `Each is a draw call of its own; join those that look alike. ${count(Object.keys(context.kit.materials).length - users.size, 'further one is', 'further ones are')} not shown.`,
    };
  },
});
