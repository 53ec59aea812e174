import Joi from 'joi';
import { defineOperation, dropWhatIsOn, idsSchema, partOf, subtreeOf, type Id } from '../document';
import { keepCouplings } from '../geometry';

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
    keepCouplings(kit, () => gone.forEach((id) => delete kit.parts[id]));
    for (const skin of Object.values(kit.skins)) {
      if (!skin.joints.some((joint) => gone.has(joint))) continue;
      for (const part of Object.values(kit.parts)) if (part.skin === skin.id) part.skin = null;
      delete kit.skins[skin.id];
    }
    for (const clip of Object.values(kit.clips)) clip.tracks = clip.tracks.filter((track) => !gone.has(track.part));
    for (const binding of Object.values(kit.bindings)) if (gone.has(binding.part)) delete kit.bindings[binding.id];
    dropWhatIsOn(kit, gone);
    const shown = new Set(Object.values(kit.parts).map((part) => part.mesh));
    for (const id of Object.keys(kit.meshes)) if (!shown.has(id)) delete kit.meshes[id];
  },
});
