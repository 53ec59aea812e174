import type { Blobs, Kit } from '../document';
import { looksLikeZip, readArchive } from './read-archive';
import { readModel } from './read-model';

/**
 * Reads whatever a person drops: a model, or a ZIP of one.
 *
 * @throws {IntakeError} where it is refused, with a sentence
 */
export function readFile(bytes: Uint8Array, fileName: string, blobs: Blobs): Promise<Kit> {
  return looksLikeZip(bytes) ? readArchive(bytes, fileName, blobs) : readModel(bytes, fileName, blobs);
}
