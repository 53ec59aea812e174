import { nameList } from '../wording';
import { heaviest } from './heaviest';
import { budget } from './budget';

/** Triangles drawn, each mesh once for every part that shows it. */
export const budgetsTriangles = budget({
  id: 'budgets.triangles',
  stage: 'shape',
  about: 'Triangles drawn, each mesh once for every part that shows it',
  unit: 'triangles',
  title: 'Too many triangles',
  what: 'The kit draws',
  measure: (context) => {
    const { total, top } = heaviest(context, 'triangles');
    return { value: total, more: `The heaviest parts are ${nameList(top.map((part) => part.name))}.`, parts: top.map((part) => part.id) };
  },
});
