import { boundsByPart, findTwins, restWorlds, type Blobs, type Id, type Kit } from '@itchkit/core';

/** The twin of every part: of those in the middle they are it themselves. */
export function twinPairs(kit: Kit, blobs: Blobs): Record<Id, Id> {
  const pairs: Record<Id, Id> = Object.fromEntries(Object.keys(kit.parts).map((id) => [id, id]));
  const worlds = restWorlds(kit);
  for (const id of Object.keys(kit.parts)) if (Math.abs(worlds.get(id)![12]) > 1e-3) delete pairs[id];
  for (const { left, right } of findTwins(kit, boundsByPart(kit, blobs))) Object.assign(pairs, { [left]: right, [right]: left });
  return pairs;
}
