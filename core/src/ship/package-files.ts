import { strToU8 } from 'fflate';
import { fileSlug, KitError, clipsInOrder, type Blobs, type Image, type Kit } from '../document';
import { atLevel, MeasuredVertices } from '../geometry';
import type { Holds, Rulebook } from '../rulebook';
import { assemblyTable } from './assembly-table';
import type { BakeOptions } from './bake';
import { bindingsTable } from './bindings-table';
import { behaviourTable } from './behaviour-table';
import { groundsTable } from './grounds-table';
import { switchesTable } from './switches-table';
import { stableJson } from './stable-json';
import { writeGlb } from './write-glb';

/** A rulebook's path that leads out of the package. */
export class PathTemplateError extends KitError {
  constructor(path: string) {
    super(
      'path-template',
      `The rulebook's packaging names the file “${path}”, which would leave the package or stand twice. Rename what it is named after, or mend the rulebook.`,
      path,
    );
  }
}

const EXTENSIONS: Record<string, string> = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' };

/** The name of an image's file: its own without an ending, and the ending of its kind. */
export function imageFileName(image: Image): string {
  return `${fileSlug(image.name.replace(/\.(png|jpe?g|webp)$/i, ''))}.${EXTENSIONS[image.mediaType] ?? 'bin'}`;
}

export interface PackageFile {
  path: string;
  holds: Holds;
  bytes: Uint8Array;
}

/**
 * The files that a rulebook's packaging list asks for, of a kit in the platform's space.
 *
 * @param made The kit as a person made it, in metres.
 * @throws {PathTemplateError} where two would stand in one place, or one outside of the package
 */
export async function packageFiles(kit: Kit, rulebook: Rulebook, blobs: Blobs, bake: BakeOptions, made: Kit): Promise<PackageFile[]> {
  const files: PackageFile[] = [];
  const taken = new Set(['manifest.json']);
  const add = (path: string, holds: Holds, bytes: Uint8Array) => {
    if (path.startsWith('/') || path.split('/').includes('..') || taken.has(path)) throw new PathTemplateError(path);
    taken.add(path);
    files.push({ path, holds, bytes });
  };
  for (const { path: template, holds } of rulebook.packaging) {
    const path = template.replaceAll('{kit}', fileSlug(kit.name));
    if (holds === 'clip') {
      const vertices = new MeasuredVertices(kit, blobs);
      for (const clip of clipsInOrder(kit))
        add(
          path.replaceAll('{clip}', fileSlug(clip.name)),
          holds,
          (await writeGlb({ ...withoutMeshes(kit), clips: { [clip.id]: clip } }, blobs, { ...bake, vertices })).bytes,
        );
    } else if (holds === 'level') {
      for (const { name } of rulebook.levels ?? [])
        add(path.replaceAll('{level}', name), holds, (await writeGlb({ ...atLevel(kit, name), clips: {} }, blobs, bake)).bytes);
    } else if (holds === 'texture') {
      for (const image of Object.values(kit.images))
        add(path.replaceAll('{texture}', imageFileName(image)), holds, blobs.get(image.blob).slice());
    } else add(path, holds, await oneFile(holds, kit, rulebook, blobs, bake, made));
  }
  return files;
}

async function oneFile(
  holds: Exclude<Holds, 'clip' | 'texture' | 'level'>,
  kit: Kit,
  rulebook: Rulebook,
  blobs: Blobs,
  bake: BakeOptions,
  made: Kit,
): Promise<Uint8Array> {
  switch (holds) {
    case 'model':
      return (await writeGlb(kit, blobs, bake)).bytes;
    case 'model-at-rest':
      return (await writeGlb({ ...kit, clips: {} }, blobs, bake)).bytes;
    case 'bindings-table':
      return strToU8(bindingsTable(kit, rulebook));
    case 'switches-table':
      return strToU8(switchesTable(kit, rulebook));
    case 'materials':
      return strToU8(stableJson(materialList(kit)));
    case 'assembly':
      return strToU8(stableJson(assemblyTable(kit)));
    case 'grounds-table':
      return strToU8(stableJson(groundsTable(kit, rulebook, blobs, made)));
    case 'behaviour-table':
      return strToU8(stableJson(behaviourTable(kit)));
    case 'clip-list':
      return strToU8(clipList(kit));
  }
}

/** The same nodes, so that a clip's file can be put onto the model's. */
function withoutMeshes(kit: Kit): Kit {
  const parts = Object.fromEntries(Object.entries(kit.parts).map(([id, part]) => [id, { ...part, mesh: null, skin: null }]));
  return { ...kit, parts, meshes: {}, skins: {}, materials: {}, images: {} };
}

function materialList(kit: Kit) {
  const file = (slot: { image: string } | null) => slot && imageFileName(kit.images[slot.image]);
  return Object.values(kit.materials)
    .map((material) => ({
      name: material.name,
      baseColor: material.baseColor,
      baseColorTexture: file(material.baseColorTexture),
      normalTexture: file(material.normalTexture),
      emissive: material.emissive,
      emissiveTexture: file(material.emissiveTexture),
      metallic: material.metallic,
      roughness: material.roughness,
      alphaMode: material.alphaMode,
    }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** CSV (RFC 4180). */
function clipList(kit: Kit): string {
  const cell = (value: string) => (/[",\r\n]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value);
  const rows = clipsInOrder(kit).map((clip) =>
    [cell(clip.name), String(Math.round(clip.lengthSeconds * clip.rate)), String(clip.rate), clip.loop].join(','),
  );
  return `${['name,frames,rate,loop', ...rows].join('\r\n')}\r\n`;
}
