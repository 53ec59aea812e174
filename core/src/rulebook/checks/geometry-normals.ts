import { badNormals } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';

const ANGLE_DEGREES = 40;
const bad = memoByArrays(badNormals, 'NORMAL');

/** Every vertex has a normal of length 1. */
export const geometryNormals: Check = {
  id: 'geometry.normals',
  family: 'geometry',
  stage: 'shape',
  run({ kit, blobs }) {
    const wrong = partsWith(kit, blobs, bad);
    if (wrong.length === 0) return [];
    const vertices = wrong.reduce((sum, { figure }) => sum + figure, 0);
    const parts = wrong.map(({ part }) => part.id);
    return [
      {
        title: 'Normals missing',
        message: `${count(vertices, 'vertex has', 'vertices have')} no sound normal, in ${nameList(wrong.map(({ part }) => part.name))}.`,
        measured: count(vertices, 'vertex', 'vertices'),
        limit: '0',
        parts,
        mend: {
          title: `Compute the normals of ${count(parts.length, 'part')}`,
          safe: false,
          call: { operation: 'shape.recompute-normals', args: { parts, angleDegrees: ANGLE_DEGREES } },
          changes: wrong.map(({ part }) => `${part.name}: shaded smooth up to ${ANGLE_DEGREES}°, sharp beyond`),
        },
      },
    ];
  },
};
