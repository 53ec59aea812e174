import { unevenSums } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(unevenSums, 'WEIGHTS_0', 'WEIGHTS_1');

/** The weights of a vertex add up to 1. */
export const skinSum: Check = {
  id: 'skin.sum',
  family: 'skin',
  stage: 'rig',
  about: 'The weights of a vertex add up to 1',
  run(context) {
    const found = partsWith(
      context,
      measure,
      context.parts.filter((part) => part.skin !== null),
    );
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Weights that do not add up',
        message: `${count(total, 'vertex has', 'vertices have')} weights that do not add up to 1, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Make the weights of ${count(total, 'vertex', 'vertices')} add up`,
          safe: false,
          call: { operation: 'rig.normalise-weights', args: { parts: idsOf(wrong) } },
          changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'vertex', 'vertices')} no longer pulled to the origin`),
        },
      },
    ];
  },
};
