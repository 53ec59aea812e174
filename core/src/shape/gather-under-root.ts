import Joi from 'joi';
import { childrenOf, defineOperation, idSchema, newId, newPart, partOf, putNewPart, type Blobs, type Id, type Kit } from '../document';
import { conjugateQuat } from '../geometry';
import { movePivotBy } from './move-pivot';
import { hangBelow } from './reparent';
import { turnOwnAxes } from './turn-own-axes';

/**
 * One root at the origin, straight, with all else below it; nothing moves. It is the base that is named, wherever that hangs, or a new
 * part.
 *
 * @throws {ShearError} where an uneven scale does not let the base come to the top, or be turned straight
 * @throws {AxesMovedError} where the base turns in a clip about axes that lie askew to the world's
 */
export const gatherUnderRoot = defineOperation<{ id?: Id; name: string; base?: Id }>({
  id: 'shape.gather-under-root',
  title: (kit, { name, base }) => `Gather everything below “${base === undefined ? name : kit.parts[base]?.name}”`,
  args: Joi.object({ id: idSchema, name: Joi.string().min(1).max(200).required(), base: idSchema }),
  change(kit, { id, name, base }, blobs) {
    const root = base === undefined ? newPart({ id: id ?? newId(), name, role: 'base' }) : partOf(kit, base);
    if (base === undefined) {
      const top = childrenOf(kit, null);
      putNewPart(kit, root);
      for (const part of top) part.parent = root.id;
      return;
    }
    if (root.parent !== null) hangBelow(kit, [base], null, 'world', 0);
    setAtOrigin(kit, base, blobs);
    const others = childrenOf(kit, null).filter((part) => part.id !== base);
    hangBelow(
      kit,
      others.map((part) => part.id),
      base,
      'world',
    );
  },
});

/** Brings a top part's own axes and pivot to the world's, without moving anything. */
function setAtOrigin(kit: Kit, id: Id, blobs: Blobs): void {
  turnOwnAxes(kit, id, conjugateQuat(kit.parts[id].rotation), blobs);
  const { translation, scale } = kit.parts[id];
  movePivotBy(kit, id, [0 - translation[0] / scale[0], 0 - translation[1] / scale[1], 0 - translation[2] / scale[2]], blobs);
  Object.assign(kit.parts[id], { translation: [0, 0, 0], rotation: [0, 0, 0, 1] });
}
