import { slotsOf, type Id } from '../../document';
import type { CheckContext } from '../types';
import { shownMaterials } from './shown-materials';

/** Images that are shown, with the parts that show them. */
export function shownImages({ once }: CheckContext): Map<Id, Set<Id>> {
  return once('shown images', (context) => {
    const users = new Map<Id, Set<Id>>();
    for (const [material, parts] of shownMaterials(context)) {
      for (const { image } of slotsOf(context.kit.materials[material])) users.set(image, new Set([...(users.get(image) ?? []), ...parts]));
    }
    return users;
  });
}
