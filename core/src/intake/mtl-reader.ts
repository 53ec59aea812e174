import { strFromU8 } from 'fflate';
import {
  newMaterial,
  type Blobs,
  type Id,
  type Kit,
  type Material,
  type ReadingNote,
  type Rgba,
  type TextureSlot,
  cutText,
} from '../document';
import type { Companions } from './companions';
import { readImage } from './image-in';

const REPEAT = 10497;

/** sRGB to linear (IEC 61966-2-1), for colours that the format gives as they look. */
function linear(value: number): number {
  const v = Math.min(1, Math.max(0, value));
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
}

/** Reads an MTL library into a kit's materials, by name. A library or picture that is not there is noted, never fetched. */
export function readMtl(path: string, beside: Companions, kit: Kit, materials: Map<string, Id>, blobs: Blobs, notes: ReadingNote[]): void {
  const bytes = beside(path);
  if (!bytes) {
    notes.push({
      grade: 'warn',
      code: 'missing-file',
      message: `Left out: the materials of “${path}”, which is not with the model.`,
      part: null,
    });
    return;
  }
  const images = new Map<string, Id | null>();
  const slot = (words: string[]): TextureSlot | null => {
    const file = pictureOf(words);
    if (!images.has(file)) images.set(file, takeImage(file, beside, kit, blobs, notes));
    const image = images.get(file)!;
    return image === null ? null : { image, texCoord: 0, wrapS: REPEAT, wrapT: REPEAT };
  };
  let material: Material | null = null;
  for (const raw of strFromU8(bytes).split('\n')) {
    const words = raw.trim().split(/\s+/);
    const values = words.slice(1).map(Number);
    if (words[0] === 'newmtl') {
      const name = words.slice(1).join(' ');
      material = newMaterial({ name: cutText(name, 200) || 'material' });
      kit.materials[material.id] = material;
      materials.set(name, material.id);
      continue;
    }
    if (!material) continue;
    const finite = values.every(Number.isFinite);
    if (words[0] === 'Kd' && finite && values.length >= 3)
      material.baseColor = [linear(values[0]), linear(values[1]), linear(values[2]), material.baseColor[3]] as Rgba;
    else if (words[0] === 'Ke' && finite && values.length >= 3)
      material.emissive = [linear(values[0]), linear(values[1]), linear(values[2])];
    else if (words[0] === 'd' && finite && values.length === 1) opacity(material, values[0]);
    else if (words[0] === 'Tr' && finite && values.length === 1) opacity(material, 1 - values[0]);
    else if (words[0] === 'Pr' && finite && values.length === 1) material.roughness = Math.min(1, Math.max(0, values[0]));
    else if (words[0] === 'Pm' && finite && values.length === 1) material.metallic = Math.min(1, Math.max(0, values[0]));
    else if (words[0] === 'map_Kd') material.baseColorTexture = slot(words);
    else if (words[0] === 'map_Ke') material.emissiveTexture = slot(words);
    else if (words[0] === 'norm') material.normalTexture = slot(words);
  }
}

function opacity(material: Material, value: number): void {
  const alpha = Math.min(1, Math.max(0, value));
  material.baseColor = [material.baseColor[0], material.baseColor[1], material.baseColor[2], alpha];
  if (alpha < 1) material.alphaMode = 'BLEND';
}

/** The file of a map line: what follows the options, each of which begins with a hyphen and has known arguments. */
function pictureOf(words: string[]): string {
  const ARGUMENTS: Record<string, number> = { '-o': 3, '-s': 3, '-t': 3, '-mm': 2 };
  let at = 1;
  while (at < words.length && words[at].startsWith('-')) at += 1 + (ARGUMENTS[words[at]] ?? 1);
  return words.slice(at).join(' ').replaceAll('\\', '/');
}

function takeImage(path: string, beside: Companions, kit: Kit, blobs: Blobs, notes: ReadingNote[]): Id | null {
  const data = beside(path);
  const name = path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]*$/, '');
  const image = data && readImage(name, data, path, blobs);
  if (!image) {
    notes.push({
      grade: 'warn',
      code: data ? 'image-unreadable' : 'missing-file',
      message: `Left out: the picture “${path}”, which is ${data ? 'no PNG, JPEG or WebP' : 'not with the model'}.`,
      part: null,
    });
    return null;
  }
  kit.images[image.id] = image;
  return image.id;
}
