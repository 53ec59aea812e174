import { inArray, sql } from 'drizzle-orm';
import { hashBytes, KitError, type Sha } from '@itchkit/core/document';
import type { Database } from './database';
import { blobs } from './schema';

/** Blobs are written together up to about this many bytes. */
const BATCH_BYTES = 8 * 1024 * 1024;

/** Bytes of a blob that takes a few milliseconds to hash. */
const LARGE = 1024 * 1024;

export class BlobMismatchError extends KitError {
  constructor(sha: Sha) {
    super('blob-mismatch', 'A data block arrived damaged: its contents are not those of its name. It will be sent again.', sha);
  }
}

/** Which of these names are not stored. */
export async function missingBlobs(db: Database, names: Iterable<Sha>): Promise<Sha[]> {
  const wanted = [...new Set(names)];
  if (wanted.length === 0) return [];
  const rows = await db.select({ sha: blobs.sha }).from(blobs).where(inArray(blobs.sha, wanted));
  const have = new Set(rows.map((row) => row.sha));
  return wanted.filter((sha) => !have.has(sha));
}

/**
 * Stores blobs; those that are there stay.
 *
 * @param options `named`: the names were worked out by our own reader and need not be again.
 * @throws {BlobMismatchError}
 */
export async function storeBlobs(db: Database, entries: Iterable<[Sha, Uint8Array]>, { named = false } = {}): Promise<void> {
  let batch: (typeof blobs.$inferInsert)[] = [];
  let size = 0;
  const write = async () => {
    if (batch.length > 0) await db.insert(blobs).values(batch).onConflictDoNothing();
    batch = [];
    size = 0;
  };
  for (const [sha, bytes] of entries) {
    if (!named) {
      if (hashBytes(bytes) !== sha) throw new BlobMismatchError(sha);
      // Others are served between large ones.
      if (bytes.length > LARGE) await new Promise(setImmediate);
    }
    batch.push({ sha, bytes, size: bytes.length });
    size += bytes.length;
    if (batch.length >= 100 || size > BATCH_BYTES) await write();
  }
  await write();
}

/** Reads blobs; the missing ones are left out. */
export async function loadBlobs(db: Database, names: Iterable<Sha>): Promise<Map<Sha, Uint8Array>> {
  const wanted = [...new Set(names)];
  const result = new Map<Sha, Uint8Array>();
  for (let i = 0; i < wanted.length; i += 200) {
    const rows = await db
      .select({ sha: blobs.sha, bytes: blobs.bytes })
      .from(blobs)
      .where(inArray(blobs.sha, wanted.slice(i, i + 200)));
    for (const row of rows) result.set(row.sha, row.bytes);
  }
  return result;
}

export async function databaseAnswers(db: Database): Promise<boolean> {
  await db.execute(sql`select 1`);
  return true;
}
