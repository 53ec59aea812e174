import { partsInOrder, type Id, type Kit } from '../../document';

/**
 * The part by which a whole body is turned: the first at the top that is not held by joints. A held mesh stands at the top of a file as
 * well, and goes where its joints go, whatever becomes of its own part. Null where there is none.
 */
export function turningRoot(kit: Kit): Id | null {
  return partsInOrder(kit).find(({ parent, skin }) => parent === null && skin === null)?.id ?? null;
}
