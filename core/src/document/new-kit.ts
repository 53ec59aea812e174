import { KIT_FORMAT, type Kit } from './kit';
import { newId } from './new-id';
import { TABLES } from './sections';
import type { Material } from './sections/materials';
import type { Part } from './sections/parts';

export function emptyKit(name: string): Kit {
  const tables = Object.fromEntries(TABLES.map((table) => [table, {}])) as unknown as Kit;
  return { ...tables, format: KIT_FORMAT, name, targets: [], source: null };
}

export function newPart(fields: Partial<Part> & { name: string }): Part {
  return {
    id: newId(),
    role: null,
    parent: null,
    order: 0,
    translation: [0, 0, 0],
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
    turnOrder: 'xyz',
    mesh: null,
    skin: null,
    hidden: false,
    ...fields,
  };
}

export function newMaterial(fields: Partial<Material> & { name: string }): Material {
  return {
    id: newId(),
    baseColor: [1, 1, 1, 1],
    baseColorTexture: null,
    metallic: 0,
    roughness: 1,
    metallicRoughnessTexture: null,
    normalTexture: null,
    normalScale: 1,
    occlusionTexture: null,
    emissive: [0, 0, 0],
    emissiveTexture: null,
    alphaMode: 'OPAQUE',
    alphaCutoff: 0.5,
    doubleSided: false,
    ...fields,
  };
}
