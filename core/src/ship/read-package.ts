import { strFromU8 } from 'fflate';
import { hashBytes, type Blobs, type Id, type Kit, type PackReader } from '../document';
import { readGltf } from '../intake';
import type { Holds } from '../rulebook';
import { checkManifest, MANIFEST_SECTIONS, ManifestError, type Manifest } from './manifest';
import { unzipFiles } from './zip';

/** A package as a platform sees it: nothing of the kit that it was made from is known here. */
export interface LoadedPackage {
  manifest: Manifest;
  /** The model, in the platform's space, with the bindings of the manifest. */
  kit: Kit;
}

/** What a model can be packed as, that which has its clips with it first. */
const MODELS: readonly Holds[] = ['model', 'model-at-rest'];

/** Puts the clips of a file of their own onto a model: its nodes are the model’s, one by one. */
async function putClips(kit: Kit, partOfNode: readonly (Id | undefined)[], bytes: Uint8Array, path: string, blobs: Blobs): Promise<void> {
  const read = await readGltf(bytes, path, blobs);
  const partOf = new Map(read.partOfNode.map((part, node) => [part, partOfNode[node]]));
  for (const clip of Object.values(read.kit.clips)) {
    const tracks = clip.tracks.map((track) => {
      const part = partOf.get(track.part);
      if (part === undefined)
        throw new ManifestError(`“${path}” moves “${read.kit.parts[track.part].name}”, a node that the model does not have`, path);
      return { ...track, part };
    });
    kit.clips[clip.id] = { ...clip, tracks, order: Object.keys(kit.clips).length };
  }
}

/**
 * Opens a package: manifest, hashes, model, and clips that have files of their own.
 *
 * @throws {ZipError} where it is no package
 * @throws {ManifestError} where the manifest, a file or a binding's part is not as the manifest says
 */
export async function readPackage(bytes: Uint8Array, blobs: Blobs): Promise<LoadedPackage> {
  const files = unzipFiles(bytes);
  if (!files['manifest.json']) throw new ManifestError('there is no manifest.json at the root');
  let value: unknown;
  try {
    value = JSON.parse(strFromU8(files['manifest.json']));
  } catch {
    throw new ManifestError('it is not JSON');
  }
  const manifest = checkManifest(value);
  for (const file of manifest.files) {
    if (!files[file.path]) throw new ManifestError(`“${file.path}” is not in the package`, file.path);
    if (hashBytes(files[file.path]) !== file.sha256) throw new ManifestError(`“${file.path}” is not the file that was packed`, file.path);
  }
  // Where clips have files of their own, the model is packed at rest.
  const model = MODELS.map((holds) => manifest.files.find((file) => file.holds === holds)).find((file) => file !== undefined);
  if (!model) throw new ManifestError('it lists no model');
  const { kit, partOfNode } = await readGltf(files[model.path], model.path, blobs);
  for (const { path, holds } of manifest.files) if (holds === 'clip') await putClips(kit, partOfNode, files[path], path, blobs);
  const reader: PackReader = {
    partAt(node, where) {
      const id = partOfNode[node];
      if (id === undefined) throw new ManifestError(`${where} names node ${node}, which the model does not have`, where);
      return id;
    },
  };
  for (const { name, read } of MANIFEST_SECTIONS) {
    const said = manifest[name as keyof Manifest];
    if (said !== undefined) read(said, kit, reader);
  }
  kit.name = manifest.kit;
  return { manifest, kit };
}
