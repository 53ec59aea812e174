import type { Check } from '../types';
import { count } from '../wording';

/** There are no more bodies than the platform moves. */
export const assemblyBodies: Check = {
  id: 'assembly.bodies',
  family: 'assembly',
  stage: 'rig',
  about: 'There are no more bodies than the platform moves',
  limit: 'bodies',
  run({ kit }, rule) {
    const bodies = kit.bodies ?? [];
    if (bodies.length <= rule.limit!) return [];
    return [
      {
        title: 'Too many bodies',
        message: `The assembly has ${count(bodies.length, 'body', 'bodies')}, more than ${rule.limit}.`,
        measured: count(bodies.length, 'body', 'bodies'),
        limit: count(rule.limit!, 'body', 'bodies'),
        share: bodies.length / rule.limit!,
        parts: bodies.flatMap(({ parts }) => parts),
      },
    ];
  },
};
