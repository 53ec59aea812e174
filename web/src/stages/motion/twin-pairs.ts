import { boundsByPart, decomposeMatrix, findTwins, restWorlds, twinsByName, type Blobs, type Id, type Kit } from '@itchkit/core';

/** The twin of every part, by place, of joints by name; of those in the middle they are it themselves. */
export function twinPairs(kit: Kit, blobs: Blobs): Record<Id, Id> {
  const pairs: Record<Id, Id> = Object.fromEntries(Object.keys(kit.parts).map((id) => [id, id]));
  const worlds = restWorlds(kit);
  for (const id of Object.keys(kit.parts)) if (Math.abs(worlds.get(id)![12]) > 1e-3) delete pairs[id];
  // A joint has no bounds to be found by. Values are turned over axis by axis, so its axes have to lie in the mirror too.
  const mirrored = (a: Id, b: Id) => {
    const [[x, y, z, w], other] = [decomposeMatrix(worlds.get(a)!).rotation, decomposeMatrix(worlds.get(b)!).rotation];
    return Math.abs(x * other[0] - y * other[1] - z * other[2] + w * other[3]) > 1 - 1e-6;
  };
  for (const [id, twin] of twinsByName(kit)) if (kit.parts[id].mesh === null && mirrored(id, twin)) pairs[id] = twin;
  for (const { left, right } of findTwins(kit, boundsByPart(kit, blobs))) Object.assign(pairs, { [left]: right, [right]: left });
  return pairs;
}
