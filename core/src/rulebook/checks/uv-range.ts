import { uvOutside } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted } from './counted';

/** UVs stay within the unit square. */
export const uvRange = counted({
  id: 'uv.range',
  family: 'uv',
  stage: 'shape',
  about: 'UVs stay within the unit square',
  measure: memoByArrays(uvOutside, 'TEXCOORD_0'),
  title: 'UVs outside the square',
  noun: ['vertex', 'vertices'],
  say: (total) => `${count(total, 'vertex has', 'vertices have')} UVs outside 0 to 1, in`,
});
