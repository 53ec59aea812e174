import { angleBetweenQuats } from '../../geometry';
import type { Check } from '../types';
import { figure } from '../wording';
import { gatherMend } from './hierarchy-single-root';

/** The one root stands at the origin, straight. */
export const hierarchyRootAtOrigin: Check = {
  id: 'hierarchy.root-at-origin',
  family: 'hierarchy',
  stage: 'shape',
  about: 'The one root stands at the origin, straight',
  run(context) {
    const roots = context.childrenOf(null);
    if (roots.length !== 1) return [];
    const [root] = roots;
    const away = Math.hypot(...root.translation);
    const turned = angleBetweenQuats(root.rotation, [0, 0, 0, 1]);
    if (away < 1e-9 && turned < 1e-5) return [];
    return [
      {
        title: 'Root is not at the origin',
        message: `The root “${root.name}” stands ${figure(away)} m from the origin, turned by ${figure(turned, 2)}°.`,
        measured: `${figure(away)} m, ${figure(turned, 2)}°`,
        limit: '0 m, 0°',
        parts: [root.id],
        mend: gatherMend(context),
      },
    ];
  },
};
