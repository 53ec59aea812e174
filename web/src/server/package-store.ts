import { desc, eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { blobsOf, count, KitError, type Kit } from '@itchkit/core/document';
import type { Manifest } from '@itchkit/core/ship';
import { loadBlobs } from './blob-store';
import type { Database } from './database';
import { doBeside } from './helpers';
import { loadKit } from './kit-store';
import { loadRulebook } from './rulebook-store';
import { packages } from './schema';

export class StopsOpenError extends KitError {
  constructor(stops: number) {
    super('stops-open', `No package was built: ${count(stops, 'stop is', 'stops are')} still open. The Ledger lists them.`);
  }
}

export class NoTargetError extends KitError {
  constructor() {
    super('no-target', 'This kit has no target yet. Choose one at the top; its rulebook says what a package holds.');
  }
}

export class RulebookMissingError extends KitError {
  constructor({ rulebook, version }: Kit['targets'][number]) {
    super('no-rulebook', `The rulebook “${rulebook}” ${version} is not here any more. Import it again, or choose another target.`);
  }
}

export interface PackageRow {
  id: string;
  revision: number;
  rulebook: string;
  version: string;
  fileName: string;
  sha: string;
  size: number;
  manifest: Manifest;
  at: Date;
}

const columns = {
  id: packages.id,
  revision: packages.revision,
  rulebook: packages.rulebook,
  version: packages.version,
  fileName: packages.fileName,
  sha: packages.sha,
  size: packages.size,
  manifest: packages.manifest,
  at: packages.at,
};

export async function listPackages(db: Database, kit: string): Promise<PackageRow[]> {
  return db.select(columns).from(packages).where(eq(packages.kit, kit)).orderBy(desc(packages.at)).limit(100);
}

/**
 * Builds the package of a kit as it is saved, for its first target.
 *
 * @throws {StopsOpenError} while a check stops it
 */
export async function buildPackage(db: Database, kitId: string): Promise<PackageRow> {
  const { document, revision } = await loadKit(db, kitId);
  const rulebook = document.targets[0] && (await loadRulebook(db, document.targets[0]));
  if (!rulebook) throw document.targets[0] ? new RulebookMissingError(document.targets[0]) : new NoTargetError();
  const blobs = [...(await loadBlobs(db, blobsOf(document)))];
  const { stops, built } = await doBeside({ job: 'pack', kit: document, rulebook, blobs }, document.name);
  if (!built) throw new StopsOpenError(stops);
  const [row] = await db
    .insert(packages)
    .values({
      id: nanoid(12),
      kit: kitId,
      revision,
      rulebook: rulebook.id,
      version: rulebook.version,
      fileName: built.fileName,
      sha: built.sha,
      size: built.bytes.length,
      manifest: built.manifest,
      bytes: built.bytes,
    })
    .returning(columns);
  return row;
}

export async function loadPackage(db: Database, id: string): Promise<{ fileName: string; bytes: Uint8Array }> {
  const [row] = await db.select({ fileName: packages.fileName, bytes: packages.bytes }).from(packages).where(eq(packages.id, id));
  if (!row) throw new KitError('not-found', 'That package is not here. Build it again in Ship.', id);
  return row;
}
