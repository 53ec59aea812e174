import type { Blobs, Kit } from '@itchkit/core/document';
import { kitBounds, restWorlds } from '@itchkit/core/geometry';
import { headOf, jointsInOrder } from '@itchkit/core/rig';

/** The topmost joint of a body stands at its jaw, about so far up. */
const JAW = 0.9;

/** So that another kit's skeleton is as tall as this kit; 1 where that can't be told. */
export function guessScale(kit: Kit, other: Kit, blobs: Blobs): number {
  const worlds = restWorlds(other);
  const top = Math.max(0, ...jointsInOrder(other).map((id) => headOf(worlds, id)[1]));
  const { max } = kitBounds(kit, blobs);
  return Object.keys(kit.meshes).length > 0 && top > 1e-6 && max[1] > 0 ? Number(((JAW * max[1]) / top).toFixed(3)) : 1;
}
