import type { Blobs, Id, Kit } from '../document';
import { posedVertices, type Poser } from '../geometry';

/** World places of every vertex by part, metres, as core's own poser has them. */
export function shownVertices(kit: Kit, blobs: Blobs, poser: Poser): Map<Id, number[]> {
  const parts = Object.values(kit.parts).filter(({ mesh }) => mesh !== null);
  return new Map(parts.map((part) => [part.id, [...posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id))]]));
}
