import { badNormals } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

const ANGLE_DEGREES = 40;

/** Every vertex has a normal of length 1. */
export const geometryNormals = counted({
  id: 'geometry.normals',
  family: 'geometry',
  stage: 'shape',
  about: 'Every vertex has a normal of length 1',
  measure: memoByArrays(badNormals, 'NORMAL'),
  title: 'Normals missing',
  noun: ['vertex', 'vertices'],
  say: (total) => `${count(total, 'vertex has', 'vertices have')} no sound normal, in`,
  mend: (found) => ({
    title: `Compute the normals of ${count(found.length, 'part')}`,
    safe: false,
    call: { operation: 'shape.recompute-normals', args: { parts: found.map(({ part }) => part.id), angleDegrees: ANGLE_DEGREES } },
    changes: found.map(({ part }) => `${part.name}: shaded smooth up to ${ANGLE_DEGREES}°, sharp beyond`),
  }),
});
