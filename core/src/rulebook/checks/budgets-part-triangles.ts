import { meshCounts } from '../../geometry';
import { count } from '../wording';
import { budget } from './budget';

/** Triangles of each single part. */
export const budgetsPartTriangles = budget({
  id: 'budgets.part-triangles',
  stage: 'shape',
  about: 'Triangles of each single part',
  unit: 'triangles',
  title: 'Part with too many triangles',
  what: 'One part draws',
  measure({ kit, parts }, limit) {
    const over = parts
      .map((part) => ({ part, triangles: meshCounts(kit, part.mesh).triangles }))
      .filter(({ triangles }) => triangles > limit)
      .sort((a, b) => b.triangles - a.triangles);
    const [heaviest] = over;
    if (!heaviest) return [];
    const more = over.length === 1 ? `It is “${heaviest.part.name}”.` : `It is “${heaviest.part.name}”; ${count(over.length - 1, 'further part draws', 'further parts draw')} too many.`;
    return { value: heaviest.triangles, more, parts: over.map(({ part }) => part.id) };
  },
});
