import { strFromU8, strToU8 } from 'fflate';
import Joi from 'joi';
import {
  arrayUses,
  blobsOf,
  checkArrayNumbers,
  checkArraySizes,
  checkKit,
  fileSlug,
  hashBytes,
  keptBlobsOf,
  KitError,
  MemoryBlobs,
  migrateKit,
  mustBeKeepable,
  readsNumbers,
  type Blobs,
  type Kit,
} from '../document';
import { unpackSafely } from '../intake';
import { checkRulebook, type Rulebook } from '../rulebook';
import { stableJson } from './stable-json';
import { zipFiles } from './zip';

/** What `archive.json` says in an archive of this version. */
export const ARCHIVE_FORMAT = 'itchkit.archive/1';
/** How an archive's file name ends. */
export const ARCHIVE_ENDING = '.kit.zip';

/** A revision of a kit with what is said of it. */
export interface ArchivedRevision {
  number: number;
  cause: string;
  /** ISO 8601. */
  at: string;
  name: string | null;
  kit: Kit;
}

/** A kit as it travels: its document, and what that needs to be the same elsewhere. */
export interface KitArchive {
  kit: Kit;
  /** Rulebooks that the kit is prepared for and that do not ship with the application. */
  rulebooks: Rulebook[];
  /** Older revisions and the newest one, in order; empty where none travel. */
  history: ArchivedRevision[];
}

/** An archive that is none, or does not hold together. */
export class ArchiveError extends KitError {
  constructor(fileName: string, what: string, where: string | null = null) {
    super('archive', `“${fileName}” is no kit that can be taken in: ${what}. Export it again where it comes from.`, where);
  }
}

const text = Joi.string().allow('').max(400).required();
const headSchema = Joi.object({
  format: Joi.valid(ARCHIVE_FORMAT).required(),
  history: Joi.array()
    .items(
      Joi.object({
        number: Joi.number().integer().min(1).max(2_000_000_000).required(),
        cause: text,
        at: Joi.string().isoDate().required(),
        name: Joi.string().max(120).allow(null).required(),
      }),
    )
    .required(),
}).required();

const KIT = 'kit.json';
const HEAD = 'archive.json';
const revisionPath = (number: number) => `history/${number}.json`;
const rulebookPath = ({ id, version }: Rulebook) => `rulebooks/${id}-${version}.rulebook.json`;
const BLOBS = 'blobs/';

/** The name of an archive's file. */
export const archiveName = (kit: Kit): string => `${fileSlug(kit.name)}${ARCHIVE_ENDING}`;

/** Every blob that an archive has to hold. */
export function archiveBlobs({ kit, history }: KitArchive): Set<string> {
  const all = keptBlobsOf(kit);
  for (const revision of history) for (const sha of keptBlobsOf(revision.kit)) all.add(sha);
  return all;
}

/**
 * Writes a kit as a ZIP: `archive.json` with its version and the list of revisions, `kit.json`, `blobs/<sha256>`, `rulebooks/`, `history/`.
 * The same contents give the same bytes. Blobs that only a source names, and that are not there, are left out.
 */
export function writeArchive(archive: KitArchive, blobs: Blobs): Uint8Array {
  const files: Record<string, Uint8Array> = {
    [HEAD]: strToU8(stableJson({ format: ARCHIVE_FORMAT, history: archive.history.map(({ kit: _, ...said }) => said) })),
    [KIT]: strToU8(stableJson(archive.kit)),
  };
  for (const rulebook of archive.rulebooks) files[rulebookPath(rulebook)] = strToU8(stableJson(rulebook));
  for (const revision of archive.history) files[revisionPath(revision.number)] = strToU8(stableJson(revision.kit));
  for (const sha of archiveBlobs(archive)) if (blobs.has(sha)) files[BLOBS + sha] = blobs.get(sha);
  return zipFiles(files);
}

/** Whether a ZIP is such an archive: its list of contents, at its end, names `archive.json` and `kit.json`. */
export function isArchive(bytes: Uint8Array): boolean {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return false;
  const end = strFromU8(bytes.subarray(Math.max(0, bytes.length - 4_000_000)), true);
  // Names stand whole in the central directory (APPNOTE 4.3.12), 46 bytes into an entry that begins with PK 1 2.
  const names = (name: string) => {
    for (let at = end.indexOf(name); at >= 0; at = end.indexOf(name, at + 1)) if (end.startsWith('PK\u0001\u0002', at - 46)) return true;
    return false;
  };
  return names(HEAD) && names(KIT);
}

/**
 * Reads an archive. Documents of older versions are brought to this one; everything is checked as the server checks what a page sends.
 *
 * @throws {IntakeError} where the ZIP is cut short, hostile or too large
 * @throws {ArchiveError} where it does not hold together
 * @throws {KitFormatError} where it is of a version that is not known here
 */
export function readArchiveOf(bytes: Uint8Array, fileName: string): { archive: KitArchive; blobs: MemoryBlobs } {
  const files = unpackSafely(bytes, fileName, { entries: 100_000, unpacked: 2 ** 31 - 1, ratio: 1000 });
  const json = (path: string): unknown => {
    if (!Object.hasOwn(files, path)) throw new ArchiveError(fileName, `“${path}” is not in it`, path);
    try {
      const value: unknown = JSON.parse(strFromU8(files[path]));
      mustBeKeepable(value);
      return value;
    } catch (error) {
      if (error instanceof KitError) throw error;
      throw new ArchiveError(fileName, `“${path}” is not JSON`, path);
    }
  };
  const head = json(HEAD);
  const { error } = headSchema.validate(head, { convert: false });
  if (error) throw new ArchiveError(fileName, error.message, HEAD);
  const blobs = new MemoryBlobs();
  for (const [path, data] of Object.entries(files)) {
    if (!path.startsWith(BLOBS)) continue;
    const sha = path.slice(BLOBS.length);
    if (hashBytes(data) !== sha) throw new ArchiveError(fileName, `the contents of “${path}” are not those of its name`, path);
    blobs.load(sha, data);
  }
  // Revisions share most of their arrays: each use is looked at once.
  const looked = new Set<string>();
  const whole = (path: string): Kit => {
    const kit = checkKit(migrateKit(json(path)));
    for (const sha of blobsOf(kit)) if (!blobs.has(sha)) throw new ArchiveError(fileName, `a data block of “${path}” is missing`, sha);
    const uses = arrayUses(null, kit).filter(({ accessor, below, ascends }) => {
      const key = JSON.stringify([accessor, below, ascends]);
      return !looked.has(key) && looked.add(key);
    });
    checkArraySizes(uses, (sha) => blobs.get(sha).length);
    for (const use of uses) if (readsNumbers(use)) checkArrayNumbers(use, blobs.get(use.accessor.blob));
    return kit;
  };
  const kit = whole(KIT);
  const said = (head as { history: Omit<ArchivedRevision, 'kit'>[] }).history;
  if (said.some(({ number }, i) => i > 0 && number <= said[i - 1].number))
    throw new ArchiveError(fileName, 'its revisions are not in order', HEAD);
  const history = said.map((revision) => ({ ...revision, kit: whole(revisionPath(revision.number)) }));
  const rulebooks = Object.keys(files)
    .filter((path) => path.startsWith('rulebooks/'))
    .map((path) => checkRulebook(json(path)));
  return { archive: { kit, rulebooks, history }, blobs };
}
