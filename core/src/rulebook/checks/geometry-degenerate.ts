import { degenerateTriangles } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays((primitive, blobs) => degenerateTriangles(primitive, blobs).length);

/** No triangle is without area. */
export const geometryDegenerate: Check = {
  id: 'geometry.degenerate',
  family: 'geometry',
  stage: 'shape',
  about: 'No triangle is without area',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Triangles without area',
        message: `${count(total, 'triangle has', 'triangles have')} no area, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'triangle', 'triangles'),
        limit: '0',
        parts: idsOf(wrong),
        mend: { title: `Drop ${count(total, 'triangle')}`, safe: true, call: { operation: 'shape.drop-degenerates', args: { parts: idsOf(wrong) } } },
      },
    ];
  },
};
