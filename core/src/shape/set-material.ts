import Joi from 'joi';
import { defineOperation, idSchema, KitError, type Id, type Material } from '../document';

type MaterialFields = Partial<Pick<Material, 'name' | 'baseColor' | 'alphaMode' | 'doubleSided'>>;

export class MaterialMissingError extends KitError {
  constructor(id: Id) {
    super('material-missing', 'That material is no longer in the kit. Choose another one.', id);
  }
}

export const setMaterial = defineOperation<{ material: Id } & MaterialFields>({
  id: 'shape.set-material',
  title: (kit, { material }) => `Change the material “${kit.materials[material]?.name}”`,
  args: Joi.object({
    material: idSchema.required(),
    name: Joi.string().trim().min(1).max(200),
    baseColor: Joi.array().items(Joi.number().min(0).max(1)).length(4),
    alphaMode: Joi.valid('OPAQUE', 'MASK', 'BLEND'),
    doubleSided: Joi.boolean(),
  }),
  change(kit, { material, ...fields }) {
    if (!kit.materials[material]) throw new MaterialMissingError(material);
    Object.assign(kit.materials[material], fields);
  },
});
