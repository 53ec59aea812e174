import { meshCounts } from '../../geometry';
import { budget } from './budget';

/** Triangles of each single part. */
export const budgetsPartTriangles = budget({
  id: 'budgets.part-triangles',
  stage: 'shape',
  about: 'Triangles of each single part',
  unit: 'triangles',
  title: 'Part with too many triangles',
  what: 'One part draws',
  measure: ({ kit, parts }) => parts.map((part) => ({ key: part.id, value: meshCounts(kit, part.mesh).triangles, more: `It is “${part.name}”.`, parts: [part.id] })),
});
