import { flippedTriangles } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(flippedTriangles, 'NORMAL');

/** Triangles run the way round that their normals say. */
export const geometryWindings: Check = {
  id: 'geometry.windings',
  family: 'geometry',
  stage: 'shape',
  about: 'Triangles run the way round that their normals say',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Triangles inside out',
        message: `${count(total, 'triangle runs', 'triangles run')} against the normals, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'triangle', 'triangles'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Turn ${count(total, 'triangle')} round`,
          safe: false,
          call: { operation: 'shape.turn-windings', args: { parts: idsOf(wrong) } },
          changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'triangle')} shown from the other side`),
        },
      },
    ];
  },
};
