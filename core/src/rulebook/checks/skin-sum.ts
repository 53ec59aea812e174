import { unevenSums } from '../../geometry';
import { count } from '../wording';
import { memoByArrays } from './by-primitive';
import { counted, skinned } from './counted';

/** The weights of a vertex add up to 1. */
export const skinSum = counted({
  id: 'skin.sum',
  family: 'skin',
  stage: 'rig',
  about: 'The weights of a vertex add up to 1',
  measure: memoByArrays(unevenSums, 'WEIGHTS_0', 'WEIGHTS_1'),
  title: 'Weights that do not add up',
  noun: ['vertex', 'vertices'],
  say: (total) => `${count(total, 'vertex has', 'vertices have')} weights that do not add up to 1, in`,
  among: skinned,
  mend: (found, total) => ({
    title: `Make the weights of ${count(total, 'vertex', 'vertices')} add up`,
    safe: false,
    call: { operation: 'rig.normalise-weights', args: { parts: found.map(({ part }) => part.id) } },
    changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'vertex', 'vertices')} no longer pulled to the origin`),
  }),
});
