import { subtreeOf, type Id, type Kit } from '../document';

/** Parts that are to be made before motion can be given to them. */
export interface MissingTwins {
  /** The uppermost ones that have no twin, and what carries their twins. */
  tops: { part: Id; below: Id | null }[];
  /** All that is copied with them. */
  parts: Id[];
}

/**
 * Of parts whose motion is to be given to twins those that have none, where they can be made by a copy: the uppermost, with all that they
 * carry. One below which something has a twin already is left out, since that would be there twice.
 *
 * @param pairs Twin of each part, by id; in the middle a part is its own
 */
export function missingTwins(kit: Kit, parts: readonly Id[], pairs: Readonly<Record<Id, Id>>): MissingTwins {
  const missing = new Set(parts.filter((id) => pairs[id] === undefined));
  const carried = (id: Id): boolean => {
    for (let up = kit.parts[id].parent; up !== null; up = kit.parts[up].parent) if (missing.has(up)) return true;
    return false;
  };
  const tops = [...missing].filter((id) => {
    if (carried(id)) return false;
    const branch = [...subtreeOf(kit, id)];
    return branch.some((one) => kit.parts[one].mesh !== null) && branch.every((one) => pairs[one] === undefined);
  });
  return {
    tops: tops.map((part) => {
      const { parent } = kit.parts[part];
      return { part, below: parent === null ? null : (pairs[parent] ?? parent) };
    }),
    parts: tops.flatMap((id) => [...subtreeOf(kit, id)]),
  };
}
