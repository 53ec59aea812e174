import Joi from 'joi';
import { countSchema, idSchema, nameSchema, recordSchema, type SchemaOf } from '../schemas';
import type { Kit } from '../kit';
import type { Id, Rgba, Table, Vec3 } from '../values';
import { count } from '../wording';
import { compareRecords, said } from './compare';
import { nothing, type Section } from './section';

export interface TextureSlot {
  image: Id;
  /** Which TEXCOORD set it reads. */
  texCoord: number;
  /** glTF sampler constants. */
  wrapS: number;
  wrapT: number;
  /** KHR_texture_transform: turn in radians. */
  transform?: { offset: [number, number]; rotation: number; scale: [number, number] };
}

/** What a glTF material extension says: numbers and textures by the names of its specification. */
export interface MaterialExtension {
  factors: Record<string, number | number[]>;
  textures: Record<string, TextureSlot>;
}

export interface Material {
  id: Id;
  name: string;
  /** Linear RGBA, 0 to 1. */
  baseColor: Rgba;
  baseColorTexture: TextureSlot | null;
  metallic: number;
  roughness: number;
  metallicRoughnessTexture: TextureSlot | null;
  normalTexture: TextureSlot | null;
  normalScale: number;
  occlusionTexture: TextureSlot | null;
  emissive: Vec3;
  emissiveTexture: TextureSlot | null;
  alphaMode: 'OPAQUE' | 'MASK' | 'BLEND';
  alphaCutoff: number;
  doubleSided: boolean;
  /** By name of the extension; kept and written out again. */
  extensions?: Record<string, MaterialExtension>;
}

declare module '../kit' {
  interface Kit {
    materials: Table<Material>;
  }
}

export type TextureSlotName = { [K in keyof Material]: Material[K] extends TextureSlot | null ? K : never }[keyof Material];
/** Where a material holds pictures, as glTF 2.0 names them (3.9). */
export const TEXTURE_SLOTS = [
  'baseColorTexture',
  'metallicRoughnessTexture',
  'normalTexture',
  'occlusionTexture',
  'emissiveTexture',
] as const satisfies readonly TextureSlotName[];

/** Every texture slot of a material that is filled, its extensions' too. */
export function slotsOf(material: Material): TextureSlot[] {
  const plain = TEXTURE_SLOTS.map((slot) => material[slot]).filter((slot) => slot !== null);
  return [...plain, ...Object.values(material.extensions ?? {}).flatMap((extension) => Object.values(extension.textures))];
}

/** Materials that some part shows. */
export function shownMaterials(kit: Kit): Set<Id | null> {
  const meshes = Object.values(kit.parts).flatMap((part) => (part.mesh === null ? [] : [kit.meshes[part.mesh]]));
  return new Set(meshes.flatMap((mesh) => [...mesh.primitives, ...(mesh.strokes ?? [])].map(({ material }) => material)));
}

const unit = Joi.number().min(0).max(1);
const pair = Joi.array().items(Joi.number().required()).length(2);
const fullSlot = Joi.object({
  image: idSchema.required(),
  texCoord: countSchema.max(7).required(),
  wrapS: countSchema.required(),
  wrapT: countSchema.required(),
  transform: Joi.object({ offset: pair.required(), rotation: Joi.number().required(), scale: pair.required() }),
} satisfies SchemaOf<TextureSlot>);
const slot = fullSlot.allow(null).required();
const materialExtension = Joi.object({
  factors: Joi.object()
    .pattern(Joi.string().max(60), Joi.alternatives(Joi.number(), Joi.array().items(Joi.number()).max(16)))
    .required(),
  textures: Joi.object().pattern(Joi.string().max(60), fullSlot).required(),
} satisfies SchemaOf<MaterialExtension>);

/** Metallic-roughness materials after glTF 2.0 (3.9). */
export const materialsSection: Section<'materials'> = {
  kind: 'table',
  merges: 'fields',
  ...recordSchema<Material>({
    id: idSchema.required(),
    name: nameSchema.required(),
    baseColor: Joi.array().items(unit).length(4).required(),
    baseColorTexture: slot,
    metallic: unit.required(),
    roughness: unit.required(),
    metallicRoughnessTexture: slot,
    normalTexture: slot,
    normalScale: Joi.number().required(),
    occlusionTexture: slot,
    emissive: Joi.array().items(unit).length(3).required(),
    emissiveTexture: slot,
    alphaMode: Joi.valid('OPAQUE', 'MASK', 'BLEND').required(),
    alphaCutoff: Joi.number().min(0).required(),
    doubleSided: Joi.boolean().required(),
    extensions: Joi.object().pattern(Joi.string().max(80), materialExtension),
  }),
  sound: nothing,
  references(material, { kit, need }) {
    for (const { image } of slotsOf(material)) need(kit.images, image, `materials.${material.id}`);
  },
  blobs: nothing,
  // Those that nothing shows any more stay: a check says so, and a person may want them elsewhere.
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.materials,
      after.materials,
      ({ name }) => `Material “${name}”`,
      (a, b) => said(a.name, b.name, `renamed from “${a.name}”`),
    ),
  pack: {
    model: true,
    manifest: null,
    leftOut(kit) {
      const shown = shownMaterials(kit);
      const left = Object.values(kit.materials).filter(({ id }) => !shown.has(id));
      if (left.length === 0) return [];
      const why = `no part shows ${left.length === 1 ? 'it' : 'them'}: ${left.map(({ name }) => name).join(', ')}`;
      return [{ what: count(left.length, 'material'), why }];
    },
  },
  newVersion: { from: 'file' },
};
