import { keptBlobsOf, type Kit, type Sha } from '@itchkit/core/document';
import { GENERAL } from '@itchkit/core/rulebook';
import { isArchive } from '@itchkit/core/ship';
import { importKit } from './archive-store';
import { loadBlobs, storeBlobs } from './blob-store';
import type { Database } from './database';
import { createKit, loadKit, onceUnder } from './kit-store';
import { readInWorker, type Upload } from './reading';

/**
 * Reads a file into a new kit, for no platform yet: that is asked when it is opened. A kit that was exported comes in as it was.
 *
 * @param id The new kit's, made by who sends the file: told twice, it is there once.
 * @throws {IntakeError} where the file is refused; nothing is kept then
 */
export async function takeInFile(db: Database, upload: Upload, id?: string): Promise<string> {
  return onceUnder(db, id, async () => {
    if (isArchive(upload.bytes)) return importKit(db, upload, id);
    const { kit, blobs, counts } = await readInWorker(upload, GENERAL);
    await storeKept(db, kit, blobs);
    return createKit(db, kit, `taken in from “${upload.fileName}”`, { counts, checked: true, id });
  });
}

/** Stores of the blobs those that the kit needs, its source among them. */
export async function storeKept(db: Database, kit: Kit, blobs: [Sha, Uint8Array][]): Promise<void> {
  const kept = keptBlobsOf(kit);
  await storeBlobs(
    db,
    blobs.filter(([sha]) => kept.has(sha)),
    { named: true },
  );
}

/** Reads a file beside a kit: its reading, with all blobs stored, and nothing of the kit changed. @throws {IntakeError} */
export async function readBeside(db: Database, upload: Upload): Promise<Kit> {
  const { kit, blobs } = await readInWorker(upload, null);
  await storeKept(db, kit, blobs);
  return kit;
}

/** The source of a kit read again as it came; null where there is none, or it is not kept any more. */
export async function readSource(db: Database, id: string): Promise<Kit | null> {
  const { document } = await loadKit(db, id);
  const { source } = document;
  const bytes = source && (await loadBlobs(db, [source.sha])).get(source.sha);
  return bytes ? readBeside(db, { bytes, fileName: source.fileName.split(' / ')[0], sha: source.sha }) : null;
}
