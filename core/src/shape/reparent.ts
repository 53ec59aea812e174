import Joi from 'joi';
import { childrenOf, defineOperation, idSchema, idsSchema, partOf, subtreeOf, type Id, type Kit } from '../document';
import { keepPlaceBelow } from '../geometry';
import { OwnBranchError } from './shape-errors';

/**
 * Hangs parts below another one (or at the top, for null) at a place among its children.
 *
 * With `keep: 'world'` every vertex stays where it is at rest; with `'local'` the numbers stay and the parts move along.
 *
 * @throws {OwnBranchError} below itself
 * @throws {ShearError} where the new parent's uneven scale would skew the part
 */
export const reparentParts = defineOperation<{ parts: Id[]; parent: Id | null; place?: number; keep: 'world' | 'local' }>({
  id: 'shape.reparent',
  title: (kit, { parts, parent }) =>
    `Hang ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} ${parent === null ? 'at the top' : `below “${kit.parts[parent]?.name}”`}`,
  args: Joi.object({
    parts: idsSchema.required(),
    parent: idSchema.allow(null).required(),
    place: Joi.number().integer().min(0),
    keep: Joi.valid('world', 'local').required(),
  }),
  change(kit, { parts, parent, place, keep }) {
    hangBelow(kit, parts, parent, keep, place);
  },
});

/** Hangs parts below another one; see `reparentParts`. Writes to the draft. */
export function hangBelow(kit: Kit, parts: readonly Id[], parent: Id | null, keep: 'world' | 'local', place?: number): void {
  if (parent !== null) partOf(kit, parent);
  for (const id of parts) {
    const part = partOf(kit, id);
    if (parent !== null && subtreeOf(kit, id).has(parent)) throw new OwnBranchError(part.name);
    if (keep === 'world' && part.parent !== parent) keepPlaceBelow(kit, id, parent);
    part.parent = parent;
  }
  const siblings = childrenOf(kit, parent).filter((part) => !parts.includes(part.id));
  siblings.splice(place ?? siblings.length, 0, ...parts.map((id) => kit.parts[id]));
  siblings.forEach((part, order) => (part.order = order));
}
