import { partOf, subtreeOf, type Blobs, type Id, type Kit } from '../document';
import type { Mat4 } from './linear';
import { restWorlds } from './pose';
import { posedVertices } from './vertices';

/** Distance from a part's pivot to the furthest vertex at or below it at rest. */
export function reachOf(kit: Kit, blobs: Blobs, id: Id, worlds: ReadonlyMap<Id, Mat4> = restWorlds(kit)): number {
  const pivot = worlds.get(id)!;
  let furthest = 0;
  for (const below of subtreeOf(kit, id)) {
    const points = posedVertices(kit, blobs, partOf(kit, below), (other) => worlds.get(other)!);
    for (let i = 0; i < points.length; i += 3)
      furthest = Math.max(furthest, Math.hypot(points[i] - pivot[12], points[i + 1] - pivot[13], points[i + 2] - pivot[14]));
  }
  return furthest;
}
