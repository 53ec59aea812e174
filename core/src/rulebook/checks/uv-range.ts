import { uvOutside } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(uvOutside, 'TEXCOORD_0');

/** UVs stay within the unit square. */
export const uvRange: Check = {
  id: 'uv.range',
  family: 'uv',
  stage: 'shape',
  about: 'UVs stay within the unit square',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'UVs outside the square',
        message: `${count(total, 'vertex has', 'vertices have')} UVs outside 0 to 1, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
