import { degenerateTriangles } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';

const flat = memoByArrays((primitive, blobs) => degenerateTriangles(primitive, blobs).length, 'POSITION');

/** No triangle is without area. */
export const geometryDegenerate: Check = {
  id: 'geometry.degenerate',
  family: 'geometry',
  stage: 'shape',
  run({ kit, blobs }) {
    const wrong = partsWith(kit, blobs, flat);
    if (wrong.length === 0) return [];
    const triangles = wrong.reduce((sum, { figure }) => sum + figure, 0);
    const parts = wrong.map(({ part }) => part.id);
    return [
      {
        title: 'Triangles without area',
        message: `${count(triangles, 'triangle has', 'triangles have')} no area, in ${nameList(wrong.map(({ part }) => part.name))}.`,
        measured: count(triangles, 'triangle'),
        limit: '0',
        parts,
        mend: { title: `Drop ${count(triangles, 'triangle')}`, safe: true, call: { operation: 'shape.drop-degenerates', args: { parts } } },
      },
    ];
  },
};
