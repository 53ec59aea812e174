import { and, eq, inArray, isNull } from 'drizzle-orm';
import { keptBlobsOf, type Kit } from '@itchkit/core/document';
import type { Database } from './database';
import { blobUses } from './schema';

const AT_ONCE = 2000;

/** Notes which blobs a revision needs that the one before it did not, and which it needs no more. */
export async function noteBlobUses(db: Database, kit: string, revision: number, before: Kit | null, after: Kit): Promise<void> {
  const [had, has] = [before ? keptBlobsOf(before) : new Set<string>(), keptBlobsOf(after)];
  const came = [...has].filter((sha) => !had.has(sha));
  const went = [...had].filter((sha) => !has.has(sha));
  for (let i = 0; i < came.length; i += AT_ONCE)
    await db
      .insert(blobUses)
      .values(came.slice(i, i + AT_ONCE).map((sha) => ({ kit, sha, first: revision })))
      .onConflictDoNothing();
  for (let i = 0; i < went.length; i += AT_ONCE)
    await db
      .update(blobUses)
      .set({ last: revision - 1 })
      .where(and(eq(blobUses.kit, kit), isNull(blobUses.last), inArray(blobUses.sha, went.slice(i, i + AT_ONCE))));
}
