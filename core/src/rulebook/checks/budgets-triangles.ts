import { kitCounts, meshCounts } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** Triangles drawn, each mesh once for every part that shows it, stay within the rule's limit. */
export const budgetsTriangles: Check = {
  id: 'budgets.triangles',
  family: 'budgets',
  stage: 'shape',
  run({ kit }, rule) {
    const limit = rule.limit ?? Infinity;
    const { triangles } = kitCounts(kit);
    if (triangles <= limit) return [];
    const heaviest = Object.values(kit.parts).sort((a, b) => meshCounts(kit, b.mesh).triangles - meshCounts(kit, a.mesh).triangles);
    const top = heaviest.slice(0, 3);
    return [
      {
        title: 'Too many triangles',
        message: `${count(triangles, 'triangle')} are drawn, ${count(triangles - limit, 'more', 'more')} than the budget. The heaviest parts are ${nameList(top.map((part) => part.name))}.`,
        measured: triangles.toLocaleString('en'),
        limit: limit.toLocaleString('en'),
        share: triangles / limit,
        parts: top.map((part) => part.id),
      },
    ];
  },
};
