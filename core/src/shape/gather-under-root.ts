import Joi from 'joi';
import { childrenOf, defineOperation, idSchema, newId, newPart, putNewPart, type Id } from '../document';

/** One new root at the origin, straight and unscaled, with all that was at the top below it. Nothing moves. */
export const gatherUnderRoot = defineOperation<{ id?: Id; name: string }>({
  id: 'shape.gather-under-root',
  title: (_, { name }) => `Gather everything below “${name}”`,
  args: Joi.object({ id: idSchema, name: Joi.string().min(1).max(200).required() }),
  change(kit, { id, name }) {
    const root = newPart({ id: id ?? newId(), name, role: 'base' });
    const top = childrenOf(kit, null);
    putNewPart(kit, root);
    for (const part of top) part.parent = root.id;
  },
});
