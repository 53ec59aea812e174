import { unweightedVertices } from '../../geometry';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const measure = memoByArrays(unweightedVertices, 'WEIGHTS_0');

/** Every vertex of a skinned part is held by a joint. */
export const skinUnweighted: Check = {
  id: 'skin.unweighted',
  family: 'skin',
  stage: 'rig',
  about: 'Every vertex of a skinned part is held by a joint',
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
        title: 'Vertices that no joint holds',
        message: `${count(total, 'vertex is', 'vertices are')} held by no joint, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
