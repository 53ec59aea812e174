import { nanoid } from 'nanoid';
import { KIT_FORMAT, type Id, type Kit, type Material, type Part } from './types';

export function newId(): Id {
  return nanoid(12);
}

export function emptyKit(name: string): Kit {
  return {
    format: KIT_FORMAT,
    name,
    targets: [],
    source: null,
    parts: {},
    meshes: {},
    materials: {},
    images: {},
    skins: {},
    clips: {},
    bindings: {},
  };
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
