import { strFromU8 } from 'fflate';
import { hashBytes, newId, type Binding, type Blobs, type Kit } from '../document';
import { readGltf } from '../intake';
import { checkManifest, ManifestError, type Manifest } from './manifest';
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
  const nodeOf = (node: number, where: string) => {
    const id = partOfNode[node];
    if (id === undefined) throw new ManifestError(`${where} names node ${node}, which the model does not have`, where);
    return id;
  };
  for (const part of manifest.parts) {
    const made = kit.parts[nodeOf(part.node, part.path)];
    made.role = part.role;
    made.turnOrder = part.turnOrder;
  }
  for (const binding of manifest.bindings) {
    const made: Binding = {
      id: newId(),
      variable: binding.variable,
      index: binding.index,
      part: nodeOf(binding.node, binding.variable),
      outside: binding.outside,
      rows: binding.rows,
    };
    kit.bindings[made.id] = made;
  }
  for (const clip of Object.values(kit.clips)) {
    const said = manifest.clips.find((one) => one.name === clip.name);
    if (!said) continue;
    Object.assign(clip, { lengthSeconds: said.seconds, rate: said.rate, loop: said.loop });
    if (said.group !== undefined) clip.group = said.group;
    if (said.overlay)
      clip.overlay = {
        place: said.overlay.place,
        mode: said.overlay.mode,
        parts: said.overlay.nodes && said.overlay.nodes.map((node) => nodeOf(node, clip.name)),
      };
    if (said.cues)
      clip.cues = said.cues.map(({ node, ...cue }) => ({ id: newId(), ...cue, part: node === null ? null : nodeOf(node, clip.name) }));
    if (said.flags) clip.flags = said.flags.map((flag) => ({ id: newId(), ...flag, colour: 'sea' }));
  }
  kit.name = manifest.kit;
  return { manifest, kit };
}
