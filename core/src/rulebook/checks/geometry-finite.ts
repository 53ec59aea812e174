import { notFinite } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(notFinite);

/** Every coordinate is a number. */
export const geometryFinite: Check = {
  id: 'geometry.finite',
  family: 'geometry',
  stage: 'shape',
  about: 'Every coordinate is a number',
  run(context) {
    const found = partsWith(context, measure);
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Coordinates that are no numbers',
        message: `${count(total, 'coordinate is no number', 'coordinates are no numbers')} in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'coordinate', 'coordinates'),
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
