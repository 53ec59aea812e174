import Joi from 'joi';
import { defineOperation, idsSchema, partOf, subtreeOf, type Id } from '../document';
import { takeOutParts } from '../geometry';

/** Takes parts out with all below them, and with what moved them; meshes and skins that nothing else shows go too. */
export const removeParts = defineOperation<{ parts: Id[] }>({
  id: 'shape.remove-parts',
  title: (kit, { parts }) => `Delete ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }) {
    const gone = new Set<Id>();
    for (const id of parts) {
      partOf(kit, id);
      for (const below of subtreeOf(kit, id)) gone.add(below);
    }
    takeOutParts(kit, gone);
  },
});
