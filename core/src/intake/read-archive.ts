import { unzipSync } from 'fflate';
import { cutText, type Blobs, type Kit } from '../document';
import { cleanPath, type Companions } from './companions';
import { framesAmong, readFrames, type FrameFile } from './frames-reader';
import { formatList, formatOfName } from './formats';
import { IntakeError } from './intake-error';
import { readModel } from './read-model';

/** How large a file may be, unpacked, bytes. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024;
const MAX_ENTRIES = 2000;
const MAX_BYTES = 1 << 30;
/** More than this from one byte is made to fill a memory, not to hold a model. */
const MAX_RATIO = 100;
/** Small entries may pack as well as they like. */
const RATIO_FROM_BYTES = 1 << 20;

/** Whether bytes begin as ZIP does, an empty one too. */
export function looksLikeZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b && ((bytes[2] === 3 && bytes[3] === 4) || (bytes[2] === 5 && bytes[3] === 6));
}

/**
 * Reads a ZIP: its one model with its materials and pictures beside it, or a set of numbered mesh frames. Motions (BVH)
 * beside a model are named; they can be taken onto the kit later.
 *
 * @throws {IntakeError} where it is too large, leaves its folder, or holds no model or several
 */
export async function readArchive(bytes: Uint8Array, fileName: string, blobs: Blobs): Promise<Kit> {
  const unpacked = Object.entries(unpackSafely(bytes, fileName));
  const files = new Map(unpacked.map(([path, data]) => [cleanPath(path).toLowerCase(), { path, data }]));
  const besideOf = (path: string): Companions => {
    const folder = path.slice(0, path.lastIndexOf('/') + 1);
    return (name) => files.get(cleanPath(folder + name).toLowerCase())?.data;
  };
  const models = [...files.values()].filter(
    ({ path }) => formatOfName(path) !== undefined && !path.startsWith('__MACOSX/') && !/(^|\/)\._/.test(path),
  );
  if (models.length === 0)
    throw new IntakeError(
      'no-model',
      `“${fileName}” holds no model: there is no ${formatList('or')} file in it. Put one in, with its pictures.`,
      fileName,
    );
  const frames = models.length > 1 ? framesAmong(models) : null;
  const kit = frames ? readFrames(frames, fileName, bytes, blobs, besideOf) : await readOne(models, fileName, blobs, besideOf);
  const format = frames ? 'frames' : 'zip';
  Object.assign(kit.source!, {
    fileName: cutText(fileName, 400),
    format,
    bytes: bytes.length,
    sha: blobs.nameOf(bytes) ?? blobs.put(bytes.slice()),
  });
  return kit;
}

async function readOne(models: FrameFile[], fileName: string, blobs: Blobs, besideOf: (path: string) => Companions): Promise<Kit> {
  const motions = models.length > 1 ? models.filter(({ path }) => formatOfName(path)?.holds === 'motion') : [];
  const rest = models.filter((model) => !motions.includes(model));
  if (rest.length !== 1) {
    const names = models.map(({ path }) => `“${path}”`);
    throw new IntakeError(
      'several-models',
      `“${fileName}” holds several models (${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}). Drop them one by one, or pack each with its pictures.`,
      fileName,
    );
  }
  const [{ path, data }] = rest;
  const kit = await readModel(data, path.slice(path.lastIndexOf('/') + 1), blobs, besideOf(path));
  const notes = kit.source!.notes;
  notes.unshift({ grade: 'note', code: 'from-archive', message: `Read from “${path}” (${kit.source!.format.toUpperCase()}).`, part: null });
  for (const motion of motions)
    notes.push({
      grade: 'note',
      code: 'motion-beside',
      message: `Left out: the motion “${motion.path}”. Take it onto this kit with “Clips from a file”.`,
      part: null,
    });
  return kit;
}

/** How much a ZIP may hold. */
export interface UnpackLimits {
  entries: number;
  /** Bytes. */
  unpacked: number;
  /** Bytes from one byte, beyond the first MiB of an entry. */
  ratio: number;
}

const MODEL_LIMITS: UnpackLimits = { entries: MAX_ENTRIES, unpacked: MAX_BYTES, ratio: MAX_RATIO };

/** Unpacks a ZIP of a stranger's. @throws {IntakeError} where it is cut short, leaves its folder, or holds more than it may */
export function unpackSafely(bytes: Uint8Array, fileName: string, limits = MODEL_LIMITS): Record<string, Uint8Array> {
  let entries = 0;
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter({ name, size, originalSize }) {
        entries++;
        total += originalSize;
        if (entries > limits.entries)
          throw new IntakeError(
            'too-large',
            `“${fileName}” has more than ${limits.entries.toLocaleString('en')} entries. Pack the model and its pictures alone.`,
            name,
          );
        if (originalSize > MAX_FILE_BYTES)
          throw new IntakeError(
            'too-large',
            `“${fileName}” was refused: “${name}” in it is larger than 256 MiB. Simplify it, or split it.`,
            name,
          );
        if (total > limits.unpacked)
          throw new IntakeError(
            'too-large',
            `“${fileName}” unpacks to more than ${Math.round(limits.unpacked / 2 ** 30)} GiB. Pack the model and its pictures alone.`,
            name,
          );
        if (originalSize > RATIO_FROM_BYTES && originalSize > limits.ratio * size)
          throw new IntakeError('ratio', `“${fileName}” was refused: “${name}” unpacks to more than ${limits.ratio} times its size.`, name);
        if (/^([/\\]|[a-z]:)/i.test(name) || name.split(/[/\\]/).includes('..'))
          throw new IntakeError(
            'path',
            `“${fileName}” was refused: its entry “${name}” would leave the archive. Pack it again from inside its folder.`,
            name,
          );
        return !name.endsWith('/');
      },
    });
  } catch (error) {
    if (error instanceof IntakeError) throw error;
    throw new IntakeError(
      'truncated',
      `“${fileName}” is a ZIP that can't be unpacked: it is cut short or damaged. Copy or pack it again.`,
      fileName,
    );
  }
}
