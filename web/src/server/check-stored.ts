import { inArray } from 'drizzle-orm';
import { arrayUses, checkArrayNumbers, checkArraySizes, readsNumbers, type Kit } from '@itchkit/core/document';
import { loadBlobs } from './blob-store';
import type { Database } from './database';
import { blobs } from './schema';

/**
 * Checks what a document says of its arrays against the blobs that are stored. Only what is not in the kit that it was made out of is
 * looked at. A blob at a time is in memory, and others are served between them.
 *
 * @throws {KitSchemaError} naming the first that does not fit
 */
export async function checkStored(db: Database, before: Kit | null, after: Kit): Promise<void> {
  const uses = arrayUses(before, after);
  const names = [...new Set(uses.map(({ accessor }) => accessor.blob))];
  const sizes = new Map<string, number>();
  for (let i = 0; i < names.length; i += 1000)
    for (const { sha, size } of await db
      .select({ sha: blobs.sha, size: blobs.size })
      .from(blobs)
      .where(inArray(blobs.sha, names.slice(i, i + 1000))))
      sizes.set(sha, size);
  checkArraySizes(uses, (sha) => sizes.get(sha));
  for (const use of uses) {
    if (!readsNumbers(use) || !sizes.has(use.accessor.blob)) continue;
    const bytes = (await loadBlobs(db, [use.accessor.blob])).get(use.accessor.blob);
    if (bytes) checkArrayNumbers(use, bytes);
  }
}
