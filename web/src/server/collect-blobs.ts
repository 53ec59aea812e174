import { sql } from 'drizzle-orm';
import type { Database } from './database';

/** Younger blobs may belong to a change that is still on its way. */
const YOUNG = '1 day';

/**
 * Removes blobs that no revision of a kit needs any more. Packages have their bytes themselves; what an open page can undo to it has in its
 * own memory, and sends again. Gives how many went.
 */
export async function collectBlobs(db: Database, young = YOUNG): Promise<number> {
  return db.transaction(async (tx) => {
    // Saving takes a row of kits for update first: no save is between its look at the blobs and its commit.
    await tx.execute(sql`lock table kits in exclusive mode`);
    const { rowCount } = await tx.execute(sql`
      delete from blobs
      where stored_at < now() - ${young}::interval and not exists (select 1 from blob_uses where blob_uses.sha = blobs.sha)`);
    return rowCount ?? 0;
  });
}
