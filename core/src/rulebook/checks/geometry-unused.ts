import { unusedVertices } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

/** Every vertex is part of a triangle. */
export const geometryUnused = counted({
  id: 'geometry.unused-vertices',
  family: 'geometry',
  stage: 'shape',
  about: 'Every vertex is part of a triangle',
  measure: memoByArrays(unusedVertices),
  title: 'Vertices that nothing uses',
  noun: ['vertex', 'vertices'],
  say: (total) => `${count(total, 'vertex belongs', 'vertices belong')} to no triangle, in`,
  mend: (found, total) => ({
    title: `Drop ${count(total, 'vertex', 'vertices')}`,
    safe: true,
    call: { operation: 'shape.drop-unused-vertices', args: { parts: found.map(({ part }) => part.id) } },
  }),
});
