import { strToU8 } from 'fflate';
import { produce } from 'immer';
import { hashBytes, partsInOrder, pathOf, type Blobs, type Kit, type Sha, type Clip, type Id } from '../document';
import { CANONICAL, changeOfSpace, conformKit, meshCounts } from '../geometry';
import { clipsInOrder } from '../motion';
import { roleOf, type Finding, type Rulebook } from '../rulebook';
import { PACKAGE_FORMAT, type Manifest } from './manifest';
import { fileSlug, packageFiles } from './package-files';
import { stableJson } from './stable-json';
import { zipFiles } from './zip';

export interface BuiltPackage {
  /** The ZIP. */
  bytes: Uint8Array;
  sha: Sha;
  fileName: string;
  manifest: Manifest;
}

/**
 * Builds the package of a kit for a rulebook: conforms it to the platform's space, bakes clips, writes the files where the
 * packaging list puts them, and a manifest. The same kit and rulebook give the same bytes.
 *
 * @param findings What the checks said, for the report.
 */
export async function packKit(kit: Kit, rulebook: Rulebook, blobs: Blobs, findings: readonly Finding[]): Promise<BuiltPackage> {
  const conformed = produce(kit, (draft) => conformKit(draft as Kit, changeOfSpace(CANONICAL, rulebook.space), blobs));
  const bake = { toleranceLength: 0.001 / rulebook.space.metresPerUnit };
  const files: Record<string, Uint8Array> = {};
  const listed: Manifest['files'] = [];
  for (const { path, holds, bytes } of await packageFiles(conformed, rulebook, blobs, bake)) {
    files[path] = bytes;
    listed.push({ path, holds, bytes: bytes.length, sha256: hashBytes(bytes) });
  }
  const nodes = partsInOrder(conformed).map((part) => part.id);
  const nodeOf = new Map(nodes.map((id, node) => [id, node]));
  const manifest: Manifest = {
    format: PACKAGE_FORMAT,
    kit: kit.name,
    target: { rulebook: rulebook.id, version: rulebook.version },
    space: rulebook.space,
    files: listed,
    parts: nodes.map((id, node) => {
      const part = conformed.parts[id];
      return {
        node,
        name: part.name,
        path: pathOf(conformed, id),
        role: roleOf(rulebook, part),
        turnOrder: part.turnOrder,
        triangles: meshCounts(conformed, part.mesh).triangles,
      };
    }),
    clips: clipsInOrder(conformed).map((clip) => clipEntry(clip, nodeOf)),
    bindings: Object.values(conformed.bindings)
      .map((binding) => ({
        variable: binding.variable,
        index: binding.index,
        node: nodeOf.get(binding.part)!,
        outside: binding.outside,
        rows: binding.rows,
      }))
      .sort(
        (a, b) => a.node - b.node || (a.variable < b.variable ? -1 : a.variable > b.variable ? 1 : 0) || (a.index ?? -1) - (b.index ?? -1),
      ),
    report: findings.map((finding) => ({
      check: finding.rule,
      grade: finding.grade,
      message: finding.message,
      parts: finding.parts.map((id) => kit.parts[id].name),
      ...(finding.aside === null ? {} : { aside: finding.aside }),
    })),
  };
  files['manifest.json'] = strToU8(stableJson(manifest));
  const bytes = zipFiles(files);
  return { bytes, sha: hashBytes(bytes), fileName: `${fileSlug(kit.name)}-${rulebook.id}.zip`, manifest };
}

/** What the manifest says of a clip: what files of motion have no place for, too. */
function clipEntry(
  { name, lengthSeconds, rate, loop, group, overlay, cues, flags }: Clip,
  nodeOf: ReadonlyMap<Id, number>,
): Manifest['clips'][number] {
  return {
    name,
    seconds: lengthSeconds,
    rate,
    loop,
    ...(group === undefined ? {} : { group }),
    ...(overlay
      ? { overlay: { place: overlay.place, mode: overlay.mode, nodes: overlay.parts && overlay.parts.map((id) => nodeOf.get(id)!) } }
      : {}),
    ...(cues
      ? {
          cues: cues.map((cue) => ({
            time: cue.time,
            kind: cue.kind,
            name: cue.name,
            node: cue.part === null ? null : nodeOf.get(cue.part)!,
          })),
        }
      : {}),
    ...(flags ? { flags: flags.map((flag) => ({ time: flag.time, name: flag.name })) } : {}),
  };
}
