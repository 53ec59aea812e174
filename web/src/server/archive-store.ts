import { asc, eq } from 'drizzle-orm';
import { KitError, type Kit } from '@itchkit/core/document';
import { compareRulebooks, type Rulebook } from '@itchkit/core/rulebook';
import { archiveBlobs, archiveName, type ArchivedRevision, type KitArchive } from '@itchkit/core/ship';
import { isShipped } from '../rulebooks';
import { loadBlobs, storeBlobs } from './blob-store';
import type { Database } from './database';
import { doBeside } from './helpers';
import { createKit, loadKit } from './kit-store';
import type { Upload } from './reading';
import { loadRulebook, saveRulebook } from './rulebook-store';
import { revisions } from './schema';

async function ownRulebooks(db: Database, { targets }: Kit): Promise<Rulebook[]> {
  const found = await Promise.all(targets.filter(({ rulebook }) => !isShipped(rulebook)).map((target) => loadRulebook(db, target)));
  return found.filter((one) => one !== undefined);
}

/**
 * A kit as a file: its document, data, own rulebooks and, where asked for, its revisions.
 *
 * @throws {KitNotFoundError}
 */
export async function exportKit(
  db: Database,
  id: string,
  { withHistory }: { withHistory: boolean },
): Promise<{ fileName: string; bytes: Uint8Array }> {
  const { document } = await loadKit(db, id);
  const history: ArchivedRevision[] = [];
  if (withHistory) {
    const rows = await db.select().from(revisions).where(eq(revisions.kit, id)).orderBy(asc(revisions.number));
    for (const { number, cause, at, name, document: kit } of rows) history.push({ number, cause, at: at.toISOString(), name, kit });
  }
  const archive: KitArchive = { kit: history.at(-1)?.kit ?? document, rulebooks: await ownRulebooks(db, document), history };
  const fileName = archiveName(document);
  const blobs = [...(await loadBlobs(db, archiveBlobs(archive)))];
  const { bytes } = await doBeside({ job: 'export', archive, blobs }, fileName);
  return { fileName, bytes };
}

/**
 * Puts an exported kit on the shelf, the same as it was. Rulebooks that come with it are kept, where they are not here already.
 *
 * @param id Its own, where it comes back to a shelf that it was on.
 * @throws {IntakeError} where the archive is refused
 * @throws {KitError} where a rulebook of the same version says something else here
 */
export async function importKit(db: Database, { bytes, fileName }: Pick<Upload, 'bytes' | 'fileName'>, id?: string): Promise<string> {
  const { archive, blobs } = await doBeside({ job: 'import', bytes, fileName }, fileName);
  for (const rulebook of archive.rulebooks) await keepRulebook(db, rulebook);
  await storeBlobs(db, blobs, { named: true });
  const history = archive.history;
  return createKit(db, archive.kit, `taken in from “${fileName}”`, { checked: true, history, id });
}

async function keepRulebook(db: Database, rulebook: Rulebook): Promise<void> {
  if (isShipped(rulebook.id)) return;
  const here = await loadRulebook(db, { rulebook: rulebook.id, version: rulebook.version });
  if (!here) await saveRulebook(db, rulebook);
  else if (compareRulebooks(here, rulebook).length > 0)
    throw new KitError(
      'rulebook-differs',
      `The rulebook “${rulebook.title}” ${rulebook.version} that comes with this kit says other things than the one here. Save the one here as another version first.`,
      rulebook.id,
    );
}
