import { assemblyTree } from '../../rig';
import type { Check, Said } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** Every part with a mesh belongs to a body, and every body is held by the anchored one, directly or by others. */
export const assemblyHeld: Check = {
  id: 'assembly.held',
  family: 'assembly',
  stage: 'rig',
  about: 'Every part with a mesh belongs to a body, and every body is held by the anchored one, directly or by others',
  run({ kit, parts }) {
    const found: Said[] = [];
    const bodies = kit.bodies ?? [];
    const inBody = new Set(bodies.flatMap((body) => body.parts));
    const shown = parts.filter((part) => part.mesh !== null && !inBody.has(part.id));
    // With no bodies at all another check speaks.
    if (shown.length > 0 && bodies.length > 0)
      found.push({
        key: 'parts',
        title: 'Parts of no body',
        message: `${nameList(namesOf(shown))} ${shown.length === 1 ? 'belongs' : 'belong'} to no body of the assembly.`,
        measured: count(shown.length, 'part'),
        limit: '0 parts',
        parts: idsOf(shown),
        mend: {
          title: 'Hold them with the nearest body',
          safe: false,
          call: { operation: 'rig.hold-nearest', args: { parts: idsOf(shown) } },
          changes: shown.map(({ name }) => `${name}: one with the body that it is nearest to`),
        },
      });
    const { root, loose } = assemblyTree(kit);
    const free = bodies.filter(({ id }) => loose.includes(id));
    // Without an anchor everything is loose: that is said elsewhere.
    if (root !== null && free.length > 0)
      found.push({
        key: 'bodies',
        title: 'Bodies that nothing holds',
        message: `${nameList(free.map(({ name }) => name))} ${free.length === 1 ? 'is' : 'are'} coupled to nothing that the anchored body holds.`,
        measured: count(free.length, 'loose body', 'loose bodies'),
        limit: '0 loose bodies',
        parts: free.flatMap((body) => body.parts),
      });
    return found;
  },
};
