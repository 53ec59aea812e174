import { sharedVertices } from '../../geometry';
import { count, nameList } from '../wording';
import { memoByArrays, partsWith } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const shared = memoByArrays(sharedVertices, 'WEIGHTS_0', 'WEIGHTS_1');

import type { Check } from '../types';

/** Each vertex is held by one joint alone: the platform moves pieces, it does not bend them. */
export const skinRigid: Check = {
  id: 'skin.rigid',
  family: 'skin',
  stage: 'rig',
  about: 'Each vertex is held by one joint alone: the platform moves pieces, it does not bend them',
  run(context) {
    const found = partsWith(
      context,
      shared,
      context.parts.filter((part) => part.skin !== null),
    );
    if (found.length === 0) return [];
    const total = found.reduce((sum, { figure }) => sum + figure, 0);
    const wrong = found.map(({ part }) => part);
    return [
      {
        title: 'Bends where it should be rigid',
        message: `${count(total, 'vertex is', 'vertices are')} held by several joints, in ${nameList(namesOf(wrong))}.`,
        measured: count(total, 'vertex', 'vertices'),
        limit: '1 joint a vertex',
        parts: idsOf(wrong),
        mend: {
          title: 'Give each vertex to its strongest joint',
          safe: false,
          call: { operation: 'rig.limit-influences', args: { parts: idsOf(wrong), most: 1 } },
          changes: found.map(({ part, figure }) => `${part.name}: ${count(figure, 'vertex', 'vertices')} no longer bend`),
        },
      },
    ];
  },
};
