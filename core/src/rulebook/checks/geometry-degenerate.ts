import { degenerateTriangles } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

/** No triangle is without area. */
export const geometryDegenerate = counted({
  id: 'geometry.degenerate',
  family: 'geometry',
  stage: 'shape',
  about: 'No triangle is without area',
  measure: memoByArrays((primitive, blobs) => degenerateTriangles(primitive, blobs).length),
  title: 'Triangles without area',
  noun: ['triangle', 'triangles'],
  say: (total) => `${count(total, 'triangle has', 'triangles have')} no area, in`,
  mend: (found, total) => ({
    title: `Drop ${count(total, 'triangle')}`,
    safe: true,
    call: { operation: 'shape.drop-degenerates', args: { parts: found.map(({ part }) => part.id) } },
  }),
});
