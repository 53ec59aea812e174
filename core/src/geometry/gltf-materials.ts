import type { Document, Extension, ExtensionProperty, Material as GltfMaterial, Texture, TextureInfo } from '@gltf-transform/core';
import {
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsDiffuseTransmission,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
  KHRTextureTransform,
  type Transform,
} from '@gltf-transform/extensions';
import type { Id, Material, MaterialExtension, TextureSlot } from '../document';

interface Kept {
  kind: new (document: Document) => Extension;
  /** Ending of the library's `create…`. */
  create: string;
  /** Endings of its `get…` and `set…`. */
  factors: string[];
  textures: string[];
}

/** The ratified material extensions (and the archived specular-glossiness one), whose values a kit keeps. */
const KEPT: Record<string, Kept> = {
  KHR_materials_anisotropy: {
    kind: KHRMaterialsAnisotropy,
    create: 'Anisotropy',
    factors: ['AnisotropyStrength', 'AnisotropyRotation'],
    textures: ['AnisotropyTexture'],
  },
  KHR_materials_clearcoat: {
    kind: KHRMaterialsClearcoat,
    create: 'Clearcoat',
    factors: ['ClearcoatFactor', 'ClearcoatRoughnessFactor', 'ClearcoatNormalScale'],
    textures: ['ClearcoatTexture', 'ClearcoatRoughnessTexture', 'ClearcoatNormalTexture'],
  },
  KHR_materials_diffuse_transmission: {
    kind: KHRMaterialsDiffuseTransmission,
    create: 'DiffuseTransmission',
    factors: ['DiffuseTransmissionFactor', 'DiffuseTransmissionColorFactor'],
    textures: ['DiffuseTransmissionTexture', 'DiffuseTransmissionColorTexture'],
  },
  KHR_materials_dispersion: { kind: KHRMaterialsDispersion, create: 'Dispersion', factors: ['Dispersion'], textures: [] },
  KHR_materials_emissive_strength: {
    kind: KHRMaterialsEmissiveStrength,
    create: 'EmissiveStrength',
    factors: ['EmissiveStrength'],
    textures: [],
  },
  KHR_materials_ior: { kind: KHRMaterialsIOR, create: 'IOR', factors: ['IOR'], textures: [] },
  KHR_materials_iridescence: {
    kind: KHRMaterialsIridescence,
    create: 'Iridescence',
    factors: ['IridescenceFactor', 'IridescenceIOR', 'IridescenceThicknessMinimum', 'IridescenceThicknessMaximum'],
    textures: ['IridescenceTexture', 'IridescenceThicknessTexture'],
  },
  KHR_materials_pbrSpecularGlossiness: {
    kind: KHRMaterialsPBRSpecularGlossiness,
    create: 'PBRSpecularGlossiness',
    factors: ['DiffuseFactor', 'SpecularFactor', 'GlossinessFactor'],
    textures: ['DiffuseTexture', 'SpecularGlossinessTexture'],
  },
  KHR_materials_sheen: {
    kind: KHRMaterialsSheen,
    create: 'Sheen',
    factors: ['SheenColorFactor', 'SheenRoughnessFactor'],
    textures: ['SheenColorTexture', 'SheenRoughnessTexture'],
  },
  KHR_materials_specular: {
    kind: KHRMaterialsSpecular,
    create: 'Specular',
    factors: ['SpecularFactor', 'SpecularColorFactor'],
    textures: ['SpecularTexture', 'SpecularColorTexture'],
  },
  KHR_materials_transmission: {
    kind: KHRMaterialsTransmission,
    create: 'Transmission',
    factors: ['TransmissionFactor'],
    textures: ['TransmissionTexture'],
  },
  KHR_materials_unlit: { kind: KHRMaterialsUnlit, create: 'Unlit', factors: [], textures: [] },
  KHR_materials_volume: {
    kind: KHRMaterialsVolume,
    create: 'Volume',
    factors: ['ThicknessFactor', 'AttenuationDistance', 'AttenuationColor'],
    textures: ['ThicknessTexture'],
  },
};

/** Names of the material extensions that a kit keeps. */
export const KEPT_MATERIAL_EXTENSIONS: readonly string[] = Object.keys(KEPT);

type Call = (...values: unknown[]) => unknown;
const call = (on: object, name: string, ...values: unknown[]) => (on as Record<string, Call>)[name](...values);

/** What a material's kept extensions say; undefined where it has none. */
export function readMaterialExtensions(
  material: GltfMaterial,
  slotOf: (texture: Texture, info: TextureInfo) => TextureSlot | null,
): Record<string, MaterialExtension> | undefined {
  const result: Record<string, MaterialExtension> = {};
  for (const [name, kept] of Object.entries(KEPT)) {
    const extension = material.getExtension<ExtensionProperty>(name);
    if (!extension) continue;
    const made: MaterialExtension = { factors: {}, textures: {} };
    for (const field of kept.factors) {
      const value = call(extension, `get${field}`) as number | number[];
      // An endless attenuation distance is the standard's default, and no number of JSON.
      if ([value].flat().every(Number.isFinite)) made.factors[field] = Array.isArray(value) ? [...value] : value;
    }
    for (const field of kept.textures) {
      const texture = call(extension, `get${field}`) as Texture | null;
      const slot = texture && slotOf(texture, call(extension, `get${field}Info`) as TextureInfo);
      if (slot) made.textures[field] = slot;
    }
    result[name] = made;
  }
  return Object.keys(result).length > 0 ? result : undefined;
}

/** Writes the extensions that a material kept. */
export function writeMaterialExtensions(
  document: Document,
  made: GltfMaterial,
  material: Material,
  textureOf: (id: Id) => Texture,
  writeSlot: (document: Document, info: TextureInfo, slot: TextureSlot) => void,
): void {
  for (const name of Object.keys(material.extensions ?? {}).sort()) {
    const kept = KEPT[name];
    if (!kept) continue;
    const { factors, textures } = material.extensions![name];
    const extension = call(document.createExtension(kept.kind), `create${kept.create}`) as ExtensionProperty;
    for (const field of kept.factors) if (factors[field] !== undefined) call(extension, `set${field}`, factors[field]);
    for (const field of kept.textures) {
      const slot = textures[field];
      if (!slot) continue;
      call(extension, `set${field}`, textureOf(slot.image));
      writeSlot(document, call(extension, `get${field}Info`) as TextureInfo, slot);
    }
    made.setExtension(name, extension);
  }
}

/** A slot's own transformation of UVs, and the set that it reads then. */
export function readTextureTransform(info: TextureInfo): { transform?: TextureSlot['transform']; texCoord: number } {
  const transform = info.getExtension<Transform>('KHR_texture_transform');
  if (!transform) return { texCoord: info.getTexCoord() };
  return {
    texCoord: transform.getTexCoord() ?? info.getTexCoord(),
    transform: {
      offset: [...transform.getOffset()] as [number, number],
      rotation: transform.getRotation(),
      scale: [...transform.getScale()] as [number, number],
    },
  };
}

/** Writes a texture's offset, turn (radians) and scale as KHR_texture_transform. */
export function writeTextureTransform(document: Document, info: TextureInfo, transform: NonNullable<TextureSlot['transform']>): void {
  const made = document
    .createExtension(KHRTextureTransform)
    .createTransform()
    .setOffset(transform.offset)
    .setRotation(transform.rotation)
    .setScale(transform.scale);
  info.setExtension('KHR_texture_transform', made);
}
