import { unzipSync } from 'fflate';
import type { Blobs, Kit } from '../document';
import { IntakeError } from './intake-error';
import { readModel } from './read-model';

const MAX_ENTRIES = 2000;
const MAX_BYTES = 1 << 30;
/** More than this from one byte is made to fill a memory, not to hold a model. */
const MAX_RATIO = 100;
/** Small entries may pack as well as they like. */
const RATIO_FROM_BYTES = 1 << 20;
const MODEL = /\.(glb|gltf|obj|ply|stl)$/i;

export function looksLikeZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;
}

/**
 * Reads the one model of a ZIP, with its materials and pictures beside it.
 *
 * @throws {IntakeError} where it is too large, leaves its folder, or holds no model or several
 */
export async function readArchive(bytes: Uint8Array, fileName: string, blobs: Blobs): Promise<Kit> {
  const files = new Map(Object.entries(unpack(bytes, fileName)).map(([path, data]) => [path.toLowerCase(), { path, data }]));
  const models = [...files.values()].filter(({ path }) => MODEL.test(path) && !path.startsWith('__MACOSX/'));
  if (models.length === 0) throw new IntakeError('no-model', `“${fileName}” holds no model: there is no GLB, glTF, OBJ, PLY or STL file in it. Put one in, with its pictures.`, fileName);
  if (models.length > 1) {
    const names = models.map(({ path }) => `“${path}”`);
    throw new IntakeError(
      'several-models',
      `“${fileName}” holds several models (${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}). Drop them one by one, or pack each with its pictures.`,
      fileName,
    );
  }
  const [{ path, data }] = models;
  const folder = path.slice(0, path.lastIndexOf('/') + 1);
  const kit = await readModel(data, path.slice(folder.length), blobs, (name) => files.get(resolve(folder + name).toLowerCase())?.data);
  kit.source!.fileName = `${fileName} / ${path}`.slice(0, 400);
  return kit;
}

/** A path without `.` and `..`; one that leaves the archive resolves to nothing that is in it. */
function resolve(path: string): string {
  const out: string[] = [];
  for (const step of path.replaceAll('\\', '/').split('/')) {
    if (step === '..') out.pop();
    else if (step !== '.' && step !== '') out.push(step);
  }
  return out.join('/');
}

function unpack(bytes: Uint8Array, fileName: string): Record<string, Uint8Array> {
  let entries = 0;
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter({ name, size, originalSize }) {
        entries++;
        total += originalSize;
        if (entries > MAX_ENTRIES) throw new IntakeError('too-large', `“${fileName}” has more than ${MAX_ENTRIES.toLocaleString('en')} entries. Pack the model and its pictures alone.`, name);
        if (total > MAX_BYTES) throw new IntakeError('too-large', `“${fileName}” unpacks to more than 1 GiB. Pack the model and its pictures alone.`, name);
        if (originalSize > RATIO_FROM_BYTES && originalSize > MAX_RATIO * size)
          throw new IntakeError('ratio', `“${fileName}” was refused: “${name}” unpacks to more than ${MAX_RATIO} times its size.`, name);
        if (/^([/\\]|[a-z]:)/i.test(name) || name.split(/[/\\]/).includes('..'))
          throw new IntakeError('path', `“${fileName}” was refused: its entry “${name}” would leave the archive. Pack it again from inside its folder.`, name);
        return !name.endsWith('/');
      },
    });
  } catch (error) {
    if (error instanceof IntakeError) throw error;
    throw new IntakeError('truncated', `“${fileName}” is a ZIP that can't be unpacked: it is cut short or damaged. Copy or pack it again.`, fileName);
  }
}
