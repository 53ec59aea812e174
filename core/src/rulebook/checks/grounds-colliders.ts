import type { Collider } from '../../document';
import { fitOf, ownPoints } from '../../grounds';
import type { Check, Said } from '../types';
import { figure } from '../wording';
import { needsGrounds } from './grounds-shared';

/** Colliders stand no further out than what they are for. */
export const groundsColliders: Check = {
  id: 'grounds.colliders',
  family: 'grounds',
  stage: 'wiring',
  about: 'Colliders stand no further out than what they are for',
  limit: 'millimetres',
  needs: needsGrounds,
  run({ kit, blobs }, rule) {
    return (kit.colliders ?? []).flatMap((collider: Collider): Said[] => {
      const { name, mesh } = kit.parts[collider.part];
      if (mesh === null) return [];
      const { beyond } = fitOf(collider, ownPoints(kit, blobs, collider.part));
      if (1000 * beyond <= rule.limit!) return [];
      return [
        {
          key: collider.id,
          title: 'A collider stands out',
          message: `The ${collider.shape} of “${name}” stands up to ${figure(1000 * beyond, 0)} mm out of what it is for.`,
          measured: `${figure(1000 * beyond, 0)} mm`,
          limit: `${figure(rule.limit!, 0)} mm`,
          parts: [collider.part],
          mend: {
            title: 'Fit it again',
            safe: false,
            call: { operation: 'grounds.fit-colliders', args: { parts: [collider.part], shape: collider.shape, snap: null } },
            changes: [`the ${collider.shape} is fitted closely about “${name}”`],
          },
        },
      ];
    });
  },
};
