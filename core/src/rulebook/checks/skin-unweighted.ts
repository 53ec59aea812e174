import { unweightedVertices } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted, skinned } from './counted';

/** Every vertex of a skinned part is held by a joint. */
export const skinUnweighted = counted({
  id: 'skin.unweighted',
  family: 'skin',
  stage: 'rig',
  about: 'Every vertex of a skinned part is held by a joint',
  measure: memoByArrays(unweightedVertices, 'WEIGHTS_0'),
  title: 'Vertices that no joint holds',
  noun: ['vertex', 'vertices'],
  say: (total) => `${count(total, 'vertex is', 'vertices are')} held by no joint, in`,
  among: skinned,
});
