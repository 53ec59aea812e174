import Joi from 'joi';
import { defineOperation, idSchema, KitError, newMaterial, partOf, slotsOf, type Id, type Kit, type Material } from '../document';
import { editMeshesOf } from '../geometry';

type MaterialFields = Partial<
  Pick<Material, 'name' | 'baseColor' | 'emissive' | 'alphaMode' | 'doubleSided' | 'metallic' | 'roughness' | 'normalScale' | 'alphaCutoff'>
>;

/** A material that is no longer in the kit. */
export class MaterialMissingError extends KitError {
  constructor(id: Id) {
    super('material-missing', 'That material is no longer in the kit. Choose another one.', id);
  }
}

function materialOf(kit: Kit, id: Id): Material {
  if (!kit.materials[id]) throw new MaterialMissingError(id);
  return kit.materials[id];
}

const unit = Joi.number().min(0).max(1);

/** Changes fields of a material, for all that wear it. */
export const setMaterial = defineOperation<{ material: Id } & MaterialFields>({
  id: 'shape.set-material',
  title: (kit, { material }) => `Change the material “${kit.materials[material]?.name}”`,
  args: Joi.object({
    material: idSchema.required(),
    name: Joi.string().trim().min(1).max(200),
    baseColor: Joi.array().items(unit).length(4),
    emissive: Joi.array().items(unit).length(3),
    alphaMode: Joi.valid('OPAQUE', 'MASK', 'BLEND'),
    alphaCutoff: unit,
    doubleSided: Joi.boolean(),
    metallic: unit,
    roughness: unit,
    normalScale: Joi.number().min(-10).max(10),
  }),
  change(kit, { material, ...fields }) {
    Object.assign(materialOf(kit, material), fields);
  },
});

/** Where a material holds pictures, in the order of the Card. */
export const TEXTURE_SLOTS = [
  'baseColorTexture',
  'normalTexture',
  'emissiveTexture',
  'metallicRoughnessTexture',
  'occlusionTexture',
] as const;
export type TextureSlotName = (typeof TEXTURE_SLOTS)[number];

const SLOT_WORDS: Record<TextureSlotName, string> = {
  baseColorTexture: 'colour',
  normalTexture: 'normal map',
  emissiveTexture: 'glow',
  metallicRoughnessTexture: 'metal and roughness',
  occlusionTexture: 'occlusion',
};

const REPEAT = 10497;

/** What a material shows in one of its slots; null shows nothing there. A new glow is made visible. */
export const setTexture = defineOperation<{ material: Id; slot: TextureSlotName; image: Id | null }>({
  id: 'shape.set-texture',
  title: (kit, { material, slot, image }) =>
    `${image === null ? 'Take the picture from' : `Show “${kit.images[image]?.name}” as`} the ${SLOT_WORDS[slot]} of “${kit.materials[material]?.name}”`,
  args: Joi.object({ material: idSchema.required(), slot: Joi.valid(...TEXTURE_SLOTS).required(), image: idSchema.allow(null).required() }),
  change(kit, { material: id, slot, image }) {
    const material = materialOf(kit, id);
    if (image !== null && !kit.images[image])
      throw new KitError('image-missing', 'That image is no longer in the kit. Choose another one.', image);
    material[slot] = image === null ? null : { ...(material[slot] ?? { texCoord: 0, wrapS: REPEAT, wrapT: REPEAT }), image };
    if (slot === 'emissiveTexture' && image !== null && material.emissive.every((value) => value === 0)) material.emissive = [1, 1, 1];
  },
});

/** Gives all faces of parts one material; a new one, where it has no id yet. */
export const assignMaterial = defineOperation<{ parts: Id[]; material: Id; name?: string }>({
  id: 'shape.assign-material',
  title: (kit, { parts, material, name }) =>
    `Give ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} the material “${kit.materials[material]?.name ?? name ?? 'new'}”`,
  args: Joi.object({
    parts: Joi.array().items(idSchema).min(1).required(),
    material: idSchema.required(),
    name: Joi.string().trim().min(1).max(200),
  }),
  change(kit, { parts, material, name }) {
    parts.forEach((id) => partOf(kit, id));
    if (!kit.materials[material]) {
      if (name === undefined) throw new MaterialMissingError(material);
      kit.materials[material] = newMaterial({ id: material, name });
    }
    editMeshesOf(kit, parts, (mesh) => ({ ...mesh, primitives: mesh.primitives.map((primitive) => ({ ...primitive, material })) }));
  },
});

/** Takes out materials and images that nothing shows. */
export const dropUnusedMaterials = defineOperation<Record<string, never>>({
  id: 'shape.drop-unused-materials',
  title: () => 'Take out the materials and images that nothing shows',
  args: Joi.object({}).required(),
  change(kit) {
    const shown = new Set(
      Object.values(kit.meshes).flatMap((mesh) => [...mesh.primitives, ...(mesh.strokes ?? [])].map(({ material }) => material)),
    );
    for (const id of Object.keys(kit.materials)) if (!shown.has(id)) delete kit.materials[id];
    const used = new Set(Object.values(kit.materials).flatMap((material) => slotsOf(material).map(({ image }) => image)));
    for (const id of Object.keys(kit.images)) if (!used.has(id)) delete kit.images[id];
  },
});
