import { shownImages } from './shown-images';
import { budget } from './budget';

/** Images that parts show. */
export const budgetsTextures = budget({
  id: 'budgets.textures',
  stage: 'shape',
  about: 'Images that parts show',
  unit: 'textures',
  title: 'Too many textures',
  what: 'The kit shows',
  measure: (context) => ({ value: shownImages(context).size }),
});
