import { jointsOf } from '../../document';
import type { Check } from '../types';
import { nameList } from '../wording';

/** Some part is skinned to a skeleton. */
export const skinPresent: Check = {
  id: 'skin.present',
  family: 'skin',
  stage: 'rig',
  about: 'Some part is skinned to a skeleton',
  run({ kit, parts }) {
    if (parts.some((part) => part.skin !== null)) return [];
    const said = {
      title: 'No skin',
      message: 'No part follows joints; the platform bends a body by its skeleton.',
      measured: '0 skinned parts',
      limit: '1 or more',
      parts: [],
    };
    const shown = parts.filter((part) => part.mesh !== null);
    // Without joints there is nothing to bind to: a skeleton has to be fitted first.
    if (shown.length === 0 || jointsOf(kit).size < 2) return [said];
    return [
      {
        ...said,
        mend: {
          title: 'Solve the weights',
          safe: false,
          call: { operation: 'rig.solve-weights', args: { parts: shown.map(({ id }) => id) } },
          changes: [
            `${nameList(shown.map(({ name }) => name))}: held by the joints that are nearest through the body; nothing moves at rest`,
          ],
        },
      },
    ];
  },
};
