import { strToU8 } from 'fflate';
import { produce } from 'immer';
import { hashBytes, KitError, pathOf, type Blobs, type Kit, type Sha } from '../document';
import { CANONICAL, changeOfSpace, conformKit, meshCounts } from '../geometry';
import { clipsInOrder } from '../motion';
import { roleOf, type Finding, type Output, type Rulebook } from '../rulebook';
import { bindingsTable } from './bindings-table';
import { PACKAGE_FORMAT, type Manifest } from './manifest';
import { stableJson } from './stable-json';
import { writeGlb } from './write-glb';
import { zipFiles } from './zip';

export interface BuiltPackage {
  /** The ZIP. */
  bytes: Uint8Array;
  sha: Sha;
  fileName: string;
  manifest: Manifest;
}

export class PathTemplateError extends KitError {
  constructor(path: string) {
    super('path-template', `The rulebook's packaging names the file “${path}”, which would leave the package or stand twice. Mend the rulebook.`, path);
  }
}

/** Lower-case letters, digits and underscores: a name that every file system takes. */
export function fileSlug(name: string): string {
  return (
    name
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '_')
      .replace(/^_+|_+$/g, '') || 'kit'
  );
}

/**
 * Builds the package of a kit for a rulebook: conforms it to the platform's space, bakes clips, writes the files where the
 * packaging list puts them, and a manifest. The same kit and rulebook give the same bytes.
 *
 * @param findings What the checks said, for the report.
 */
export async function packKit(kit: Kit, rulebook: Rulebook, blobs: Blobs, findings: readonly Finding[]): Promise<BuiltPackage> {
  const conformed = produce(kit, (draft) => conformKit(draft as Kit, changeOfSpace(CANONICAL, rulebook.space), blobs));
  const glb = await writeGlb(conformed, blobs, { toleranceLength: 0.001 / rulebook.space.metresPerUnit });
  const contents: Record<Output['holds'], () => Uint8Array> = {
    model: () => glb.bytes,
    'bindings-table': () => strToU8(bindingsTable(conformed, rulebook)),
  };
  const files: Record<string, Uint8Array> = {};
  const listed: Manifest['files'] = [];
  for (const output of rulebook.packaging) {
    const path = output.path.replaceAll('{kit}', fileSlug(kit.name));
    if (path.startsWith('/') || path.split('/').includes('..') || path in files || path === 'manifest.json') throw new PathTemplateError(path);
    files[path] = contents[output.holds]();
    listed.push({ path, holds: output.holds, bytes: files[path].length, sha256: hashBytes(files[path]) });
  }
  const nodeOf = new Map(glb.nodes.map((id, node) => [id, node]));
  const manifest: Manifest = {
    format: PACKAGE_FORMAT,
    kit: kit.name,
    target: { rulebook: rulebook.id, version: rulebook.version },
    space: rulebook.space,
    files: listed,
    parts: glb.nodes.map((id, node) => {
      const part = conformed.parts[id];
      return { node, name: part.name, path: pathOf(conformed, id), role: roleOf(rulebook, part), turnOrder: part.turnOrder, triangles: meshCounts(conformed, part.mesh).triangles };
    }),
    clips: clipsInOrder(conformed).map((clip) => ({ name: clip.name, seconds: clip.lengthSeconds, rate: clip.rate, loop: clip.loop })),
    bindings: Object.values(conformed.bindings)
      .map((binding) => ({ variable: binding.variable, index: binding.index, node: nodeOf.get(binding.part)!, outside: binding.outside, rows: binding.rows }))
      .sort((a, b) => a.node - b.node || (a.variable < b.variable ? -1 : a.variable > b.variable ? 1 : 0) || (a.index ?? -1) - (b.index ?? -1)),
    report: findings.map((finding) => ({ check: finding.rule, grade: finding.grade, message: finding.message, parts: finding.parts.map((id) => kit.parts[id].name) })),
  };
  files['manifest.json'] = strToU8(stableJson(manifest));
  const bytes = zipFiles(files);
  return { bytes, sha: hashBytes(bytes), fileName: `${fileSlug(kit.name)}-${rulebook.id}.zip`, manifest };
}
