import {
  fileSlug,
  hashBytes,
  partsInOrder,
  SECTION_LIST,
  type Blobs,
  type Kit,
  type ManifestSections,
  type PackWriter,
  type Sha,
} from '../document';
import { strToU8 } from 'fflate';
import { produce } from 'immer';
import { mixesWithSteps } from '../behaviour';
import { CANONICAL, changeOfSpace, conformKit } from '../geometry';
import { roleOf, type Finding, type Rulebook } from '../rulebook';
import { MANIFEST_SECTIONS, PACKAGE_FORMAT, type Manifest } from './manifest';
import type { BakeOptions } from './bake';
import { clipsLeftOut, onOneTimeline } from './one-timeline';
import { packageFiles } from './package-files';
import { plainTables } from './plain-tables';
import { playedInFiles } from './played-in-files';
import { stableJson } from './stable-json';
import { zipFiles } from './zip';

export interface BuiltPackage {
  /** The ZIP. */
  bytes: Uint8Array;
  sha: Sha;
  fileName: string;
  manifest: Manifest;
  /** Everything in the ZIP, by path, with how large it is. */
  contents: { path: string; bytes: number }[];
  /** How far each clip, read back from its file, is from the one that was made, millimetres at the furthest vertex. */
  played: { clip: string; path: string; millimetres: number; part: string | null }[];
}

/** How far a vertex may be off in a file of straight keys, metres. */
const BAKED_WITHIN = 0.001;
/** The same in a file of curves. */
const CURVED_WITHIN = 6e-6;

/**
 * How clips are baked for a platform, lengths in metres: what people ride in goes in curves where the platform knows them, as it was made;
 * anything else goes straight.
 */
export function bakeOf({ grounds, motion }: Pick<Rulebook, 'grounds' | 'motion'>): BakeOptions & { toleranceLength: number } {
  return grounds && motion?.easings?.includes('curve')
    ? { toleranceLength: CURVED_WITHIN, curves: 'fewer' }
    : { toleranceLength: BAKED_WITHIN };
}

/**
 * Builds the package of a kit for a rulebook: conforms it to the platform's space, bakes clips, writes the files where the
 * packaging list puts them, and a manifest. The same kit and rulebook give the same bytes.
 *
 * @param findings What the checks said, for the report.
 */
export async function packKit(kit: Kit, rulebook: Rulebook, blobs: Blobs, findings: readonly Finding[]): Promise<BuiltPackage> {
  // Who plays a mix goes by the steps that were found here.
  const stepped = kit.mixes ? { ...kit, mixes: mixesWithSteps(kit, blobs) } : kit;
  const { toleranceLength: all, curves } = bakeOf(rulebook);
  const timed = onOneTimeline(plainTables(stepped, rulebook), rulebook, blobs, { toleranceLength: all / 2 });
  // What was baked once onto one timeline has taken half of what it may be off.
  const within = timed.clips === kit.clips ? all : all / 2;
  const conformed = produce(timed, (draft) => conformKit(draft as Kit, changeOfSpace(CANONICAL, rulebook.space), blobs));
  const bake = { toleranceLength: within / rulebook.space.metresPerUnit, curves };
  const files: Record<string, Uint8Array> = {};
  const listed: Manifest['files'] = [];
  const written = await packageFiles(conformed, rulebook, blobs, bake, kit);
  for (const { path, holds, bytes } of written) {
    files[path] = bytes;
    listed.push({ path, holds, bytes: bytes.length, sha256: hashBytes(bytes) });
  }
  const nodes = partsInOrder(conformed).map((part) => part.id);
  const places = new Map(nodes.map((id, node) => [id, node]));
  const writer: PackWriter = { nodes, nodeOf: (id) => places.get(id)!, roleOf: (part) => roleOf(rulebook, part) };
  const manifest = {
    format: PACKAGE_FORMAT,
    kit: kit.name,
    target: { rulebook: rulebook.id, version: rulebook.version },
    space: rulebook.space,
    files: listed,
    ...saidOf(conformed, writer),
    report: findings.map((finding) => ({
      check: finding.rule,
      grade: finding.grade,
      message: finding.message,
      parts: finding.parts.map((id) => kit.parts[id].name),
      ...(finding.aside === null ? {} : { aside: finding.aside }),
    })),
  } satisfies Manifest;
  files['manifest.json'] = strToU8(stableJson(manifest));
  const bytes = zipFiles(files);
  const contents = Object.entries(files).map(([path, file]) => ({ path, bytes: file.length }));
  const played = (await playedInFiles(conformed, written, blobs)).map(({ clip, path, length, part }) => ({
    clip,
    path,
    millimetres: 1000 * rulebook.space.metresPerUnit * length,
    part: part === null ? null : kit.parts[part].name,
  }));
  return { bytes, sha: hashBytes(bytes), fileName: `${fileSlug(kit.name)}-${rulebook.id}.zip`, manifest, contents, played };
}

/** What each section says in the manifest; one that has nothing to say is not there. */
function saidOf(kit: Kit, writer: PackWriter): ManifestSections {
  const said = MANIFEST_SECTIONS.map(({ name, write }) => [name, write(kit, writer)] as const);
  return Object.fromEntries(said.filter(([, value]) => value !== undefined)) as unknown as ManifestSections;
}

/** What goes into no package of a kit, each with the reason. */
export function leftOut(kit: Kit, rulebook?: Rulebook): { what: string; why: string }[] {
  const unplayed = rulebook ? clipsLeftOut(kit, rulebook) : [];
  return [
    ...SECTION_LIST.flatMap(({ pack }) => pack.leftOut(kit)),
    ...unplayed.map(({ name }) => ({ what: `Clip “${name}”`, why: 'no state plays it' })),
    { what: 'History and revisions', why: 'kept on the shelf' },
  ];
}
