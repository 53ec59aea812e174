import { nameList } from '../wording';
import { heaviest } from './heaviest';
import { budget } from './budget';
import { simplifyMend } from './simplify-mend';

/** Triangles drawn, each mesh once for every part that shows it. */
export const budgetsTriangles = budget({
  id: 'budgets.triangles',
  stage: 'shape',
  about: 'Triangles drawn, each mesh once for every part that shows it',
  unit: 'triangles',
  title: 'Too many triangles',
  what: 'The kit draws',
  measure: (context, limit) => {
    const { total, top } = heaviest(context, 'triangles');
    const drawn = total > limit ? context.parts.filter(({ mesh }) => mesh !== null) : [];
    return {
      mend: total > limit ? simplifyMend(drawn, total, limit) : undefined,
      value: total,
      more: `The heaviest parts are ${nameList(top.map((part) => part.name))}.`,
      parts: top.map((part) => part.id),
    };
  },
});
