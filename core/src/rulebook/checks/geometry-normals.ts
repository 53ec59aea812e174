import { badNormals } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const ANGLE_DEGREES = 40;
const measure = memoByArrays(badNormals, 'NORMAL');

/** Every vertex has a normal of length 1. */
export const geometryNormals: Check = {
  id: 'geometry.normals',
  family: 'geometry',
  stage: 'shape',
  about: 'Every vertex has a normal of length 1',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Normals missing',
        message: `${count(total, 'vertex has', 'vertices have')} no sound normal, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Compute the normals of ${count(wrong.length, 'part')}`,
          safe: false,
          call: { operation: 'shape.recompute-normals', args: { parts: idsOf(wrong), angleDegrees: ANGLE_DEGREES } },
          changes: wrong.map((part) => `${part.name}: shaded smooth up to ${ANGLE_DEGREES}°, sharp beyond`),
        },
      },
    ];
  },
};
