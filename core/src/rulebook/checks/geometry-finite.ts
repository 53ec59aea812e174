import { notFinite } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

/** Every coordinate is a number. */
export const geometryFinite = counted({
  id: 'geometry.finite',
  family: 'geometry',
  stage: 'shape',
  about: 'Every coordinate is a number',
  measure: memoByArrays(notFinite),
  title: 'Coordinates that are no numbers',
  noun: ['coordinate', 'coordinates'],
  say: (total) => `${count(total, 'coordinate is no number', 'coordinates are no numbers')} in`,
});
