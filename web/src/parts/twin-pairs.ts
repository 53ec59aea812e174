import type { Blobs, Id, Kit } from '@itchkit/core/document';
import { boundsByPart, findTwins, restWorlds } from '@itchkit/core/geometry';
import { twinsOf } from '@itchkit/core/motion';

/** What is so near to the plane x = 0 is in the middle, metres. */
const MIDDLE = 1e-3;

/**
 * The twin of every part: by what it is for or its name, or, surer, by its place where it has a mesh; of those in the middle they are it
 * themselves.
 */
export function twinPairs(kit: Kit, blobs: Blobs): Record<Id, Id> {
  const worlds = restWorlds(kit);
  const middle = Object.keys(kit.parts).filter((id) => Math.abs(worlds.get(id)![12]) <= MIDDLE);
  const pairs: Record<Id, Id> = Object.fromEntries(middle.map((id) => [id, id]));
  for (const [id, twin] of twinsOf(kit)) pairs[id] = twin;
  for (const { left, right } of findTwins(kit, boundsByPart(kit, blobs))) Object.assign(pairs, { [left]: right, [right]: left });
  return pairs;
}
