import { mostInfluences } from '../../geometry';
import { nameList } from '../wording';
import { figureOf, memoByArrays } from './by-primitive';
import { idsOf, namesOf } from './parts-of-rule';

const most = memoByArrays(mostInfluences, 'WEIGHTS_0', 'WEIGHTS_1');

import type { Check } from '../types';

/** No vertex is held by more joints than the platform mixes. */
export const skinInfluences: Check = {
  id: 'skin.influences',
  family: 'skin',
  stage: 'rig',
  about: 'No vertex is held by more joints than the platform mixes',
  limit: 'joints a vertex',
  run(context, rule) {
    const found = context.parts.filter((part) => part.skin !== null && figureOf(context, part, most, true) > rule.limit!);
    if (found.length === 0) return [];
    const worst = Math.max(...found.map((part) => figureOf(context, part, most, true)));
    return [
      {
        title: 'Too many joints a vertex',
        message: `Vertices of ${nameList(namesOf(found))} are held by up to ${worst} joints.`,
        measured: `${worst} joints`,
        limit: `${rule.limit} joints`,
        share: worst / rule.limit!,
        parts: idsOf(found),
        mend: {
          title: `Keep the ${rule.limit} strongest`,
          safe: false,
          call: { operation: 'rig.limit-influences', args: { parts: idsOf(found), most: rule.limit! } },
          changes: found.map((part) => `${part.name}: the weakest holds of its vertices go, the others grow to 1`),
        },
      },
    ];
  },
};
