import Joi from 'joi';
import { defineOperation, slotsOf, type Id, type Kit, type Material } from '../document';

/** Images of the same bytes, and materials that are alike in all but their names: each later one with the first that it equals. */
export function duplicatesOf(kit: Kit): { images: Map<Id, Id>; materials: Map<Id, Id> } {
  const images = new Map<Id, Id>();
  const firstImage = new Map<string, Id>();
  for (const { id, blob } of Object.values(kit.images)) {
    const first = firstImage.get(blob);
    if (first === undefined) firstImage.set(blob, id);
    else images.set(id, first);
  }
  const materials = new Map<Id, Id>();
  const firstMaterial = new Map<string, Id>();
  for (const material of Object.values(kit.materials)) {
    const key = lookOf(material, images);
    const first = firstMaterial.get(key);
    if (first === undefined) firstMaterial.set(key, material.id);
    else materials.set(material.id, first);
  }
  return { images, materials };
}

/** What a material looks like: all of it but id and name, images as the ones that they equal. */
function lookOf(material: Material, images: ReadonlyMap<Id, Id>): string {
  const look: Record<string, unknown> = {};
  // By `in`, since a check is given records whose fields are read through getters.
  for (const key in material) if (key !== 'id' && key !== 'name') look[key] = material[key as keyof Material];
  return JSON.stringify(look, (key, value: unknown) =>
    key === 'image' && typeof value === 'string' ? (images.get(value) ?? value) : value,
  );
}

/** Lets one image or material stand for all that equal it. Nothing that is drawn changes. */
export const mergeDuplicates = defineOperation<Record<string, never>>({
  id: 'shape.merge-duplicates',
  title: (kit) => {
    const { images, materials } = duplicatesOf(kit);
    return `Merge ${images.size + materials.size} duplicate materials and images`;
  },
  args: Joi.object({}).required(),
  change(kit) {
    const { images, materials } = duplicatesOf(kit);
    for (const material of Object.values(kit.materials))
      for (const slot of slotsOf(material)) slot.image = images.get(slot.image) ?? slot.image;
    for (const mesh of Object.values(kit.meshes)) {
      for (const one of [...mesh.primitives, ...(mesh.levels ?? []).flatMap((level) => level.primitives), ...(mesh.strokes ?? [])])
        if (one.material !== null) one.material = materials.get(one.material) ?? one.material;
    }
    for (const id of images.keys()) delete kit.images[id];
    for (const id of materials.keys()) delete kit.materials[id];
  },
});
