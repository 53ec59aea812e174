import type { Material, TextureSlot } from './types';

/** Every texture slot of a material that is filled, its extensions' too. */
export function slotsOf(material: Material): TextureSlot[] {
  const { baseColorTexture, metallicRoughnessTexture, normalTexture, occlusionTexture, emissiveTexture, extensions } = material;
  const plain = [baseColorTexture, metallicRoughnessTexture, normalTexture, occlusionTexture, emissiveTexture].filter(
    (slot) => slot !== null,
  );
  return [...plain, ...Object.values(extensions ?? {}).flatMap((extension) => Object.values(extension.textures))];
}
