import { KIT_FORMAT, type Kit } from './kit';
import { newId } from './new-id';
import { TABLES } from './sections';
import type { Material } from './sections/materials';
import type { Part } from './sections/parts';

/** A kit with a name and nothing else in it. */
export function emptyKit(name: string): Kit {
  const tables = Object.fromEntries(TABLES.map((table) => [table, {}])) as unknown as Kit;
  return { ...tables, format: KIT_FORMAT, name, targets: [], source: null };
}

/** A part at its parent's place: no turn, size 1, nothing on it, unless the fields say otherwise. */
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

/** A material with the values that glTF 2.0 takes where none are written (3.9), unless the fields say otherwise. */
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
