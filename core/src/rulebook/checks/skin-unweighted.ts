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
  mend: (found, total) => ({
    title: `Let ${count(total, 'vertex', 'vertices')} go with their neighbours`,
    safe: false,
    call: { operation: 'rig.fill-weights', args: { parts: found.map(({ part }) => part.id) } },
    changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'vertex', 'vertices')} held as the nearest surface that is`),
  }),
});
