import { flippedTriangles } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

/** Triangles run the way round that their normals say. */
export const geometryWindings = counted({
  id: 'geometry.windings',
  family: 'geometry',
  stage: 'shape',
  about: 'Triangles run the way round that their normals say',
  measure: memoByArrays(flippedTriangles, 'NORMAL'),
  title: 'Triangles inside out',
  noun: ['triangle', 'triangles'],
  say: (total) => `${count(total, 'triangle runs', 'triangles run')} against the normals, in`,
  mend: (found, total) => ({
    title: `Turn ${count(total, 'triangle')} round`,
    safe: false,
    call: { operation: 'shape.turn-windings', args: { parts: found.map(({ part }) => part.id) } },
    changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'triangle')} shown from the other side`),
  }),
});
