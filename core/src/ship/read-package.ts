import { strFromU8 } from 'fflate';
import { hashBytes, type Blobs, type Kit, type PackReader } from '../document';
import { readGltf } from '../intake';
import { checkManifest, MANIFEST_SECTIONS, ManifestError, type Manifest } from './manifest';
import { unzipFiles } from './zip';

/** A package as a platform sees it: nothing of the kit that it was made from is known here. */
export interface LoadedPackage {
  manifest: Manifest;
  /** The model, in the platform's space, with the bindings of the manifest. */
  kit: Kit;
}

/**
 * Opens a package: manifest, hashes, model.
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
  const model = manifest.files.find((file) => file.holds === 'model');
  if (!model) throw new ManifestError('it lists no model');
  const { kit, partOfNode } = await readGltf(files[model.path], model.path, blobs);
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
