import { checkKit, KitSchemaError, type Blobs, type Kit } from '../document';
import { cleanTexts } from './clean-texts';
import { ALONE, type Companions } from './companions';
import { IntakeError, invalid } from './intake-error';
import { looksLikeZip, MAX_FILE_BYTES, readArchive } from './read-archive';
import { readModel } from './read-model';

const ALIGNED = 8;

/**
 * Reads whatever a person drops: a model, or a ZIP of one.
 *
 * The file itself becomes a blob too; where it was put into `blobs` before, it is not hashed again.
 *
 * @param beside Files that a model may name, where it is no ZIP.
 * @throws {IntakeError} where it is refused, with a sentence
 */
export async function readFile(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions = ALONE): Promise<Kit> {
  // Readers look at numbers where they lie: a view into something larger may lie between them.
  if (bytes.byteOffset % ALIGNED !== 0) return readFile(bytes.slice(), fileName, blobs, beside);
  if (bytes.length > MAX_FILE_BYTES)
    throw new IntakeError(
      'too-large',
      `“${fileName}” is larger than 256 MiB, the most that is taken in. Simplify it, or split it into several files.`,
      fileName,
    );
  try {
    const kit = looksLikeZip(bytes) ? await readArchive(bytes, fileName, blobs) : await readModel(bytes, fileName, blobs, beside);
    cleanTexts(kit);
    return checkKit(kit);
  } catch (error) {
    if (error instanceof KitSchemaError) throw invalid(fileName, error.where ?? 'its data', 'a value in it is out of all bounds');
    // Arrays too long for this machine, text too long for a string.
    if (error instanceof RangeError || (error instanceof Error && 'code' in error && error.code === 'ERR_STRING_TOO_LONG'))
      throw new IntakeError(
        'too-large',
        `“${fileName}” needs more memory than reading may use. Simplify it, or split it into several files.`,
        fileName,
      );
    throw error;
  }
}
