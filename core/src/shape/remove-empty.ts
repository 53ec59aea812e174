import Joi from 'joi';
import { defineOperation, type Id, type Kit } from '../document';
import { takeOutParts } from '../geometry';

/**
 * Parts without a mesh, a role or anything below them, that no motion, variable or skin needs; with those above them that carry nothing
 * else.
 */
export function emptyParts(kit: Kit): Id[] {
  const needed = new Set<Id>([
    ...Object.values(kit.skins).flatMap((skin) => skin.joints),
    ...Object.values(kit.bindings).map((binding) => binding.part),
    ...Object.values(kit.clips).flatMap((clip) => clip.tracks.map((track) => track.part)),
  ]);
  const left = new Set(Object.keys(kit.parts));
  for (let before = -1; before !== left.size;) {
    before = left.size;
    const carries = new Set([...left].map((id) => kit.parts[id].parent));
    for (const id of left)
      if (kit.parts[id].mesh === null && kit.parts[id].role === null && !needed.has(id) && !carries.has(id)) left.delete(id);
  }
  return Object.keys(kit.parts).filter((id) => !left.has(id));
}

/** Takes out parts that are there for nothing. A role that only a name tells does not count: the Ledger asks for those. */
export const removeEmpty = defineOperation<Record<string, never>>({
  id: 'shape.remove-empty',
  title: (kit) => `Take out ${emptyParts(kit).length} empty parts`,
  args: Joi.object({}).required(),
  change(kit) {
    takeOutParts(kit, new Set(emptyParts(kit)));
  },
});
