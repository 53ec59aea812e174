import { nameList } from '../wording';
import { heaviest } from './heaviest';
import { budget } from './budget';

/** Vertices drawn, each mesh once for every part that shows it. */
export const budgetsVertices = budget({
  id: 'budgets.vertices',
  stage: 'shape',
  about: 'Vertices drawn, each mesh once for every part that shows it',
  unit: 'vertices',
  title: 'Too many vertices',
  what: 'The kit has',
  measure: (context) => {
    const { total, top } = heaviest(context, 'vertices');
    return { value: total, more: `The heaviest parts are ${nameList(top.map((part) => part.name))}.`, parts: top.map((part) => part.id) };
  },
});
