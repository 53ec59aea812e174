import { unusedVertices } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(unusedVertices);

/** Every vertex is part of a triangle. */
export const geometryUnused: Check = {
  id: 'geometry.unused-vertices',
  family: 'geometry',
  stage: 'shape',
  about: 'Every vertex is part of a triangle',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Vertices that nothing uses',
        message: `${count(total, 'vertex belongs', 'vertices belong')} to no triangle, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '0',
        parts: idsOf(wrong),
        mend: { title: `Drop ${count(total, 'vertex', 'vertices')}`, safe: true, call: { operation: 'shape.drop-unused-vertices', args: { parts: idsOf(wrong) } } },
      },
    ];
  },
};
