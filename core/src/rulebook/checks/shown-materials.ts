import type { Id } from '../../document';
import type { CheckContext } from '../types';

/** Materials that are shown, with the parts that show them. */
export function shownMaterials({ once }: CheckContext): Map<Id, Id[]> {
  return once('shown materials', ({ kit, parts }) => {
    const users = new Map<Id, Id[]>();
    for (const part of parts) {
      const mesh = part.mesh === null ? null : kit.meshes[part.mesh];
      const own = new Set([...(mesh?.primitives ?? []), ...(mesh?.strokes ?? [])].map((one) => one.material));
      for (const material of own) if (material !== null) users.set(material, [...(users.get(material) ?? []), part.id]);
    }
    return users;
  });
}
