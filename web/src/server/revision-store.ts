import { and, desc, eq } from 'drizzle-orm';
import { KitError, type Kit } from '@itchkit/core/document';
import type { Database } from './database';
import { loadKit } from './kit-store';
import { revisions } from './schema';

export interface RevisionRow {
  number: number;
  cause: string;
  at: string;
}

/** At most this many are listed, the newest first; older ones can still be opened by their number. */
const LISTED = 1000;

/** @throws {KitNotFoundError} */
export async function listRevisions(db: Database, kit: string): Promise<RevisionRow[]> {
  await loadKit(db, kit);
  const rows = await db
    .select({ number: revisions.number, cause: revisions.cause, at: revisions.at })
    .from(revisions)
    .where(eq(revisions.kit, kit))
    .orderBy(desc(revisions.number))
    .limit(LISTED);
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** @throws {KitError} where the kit has no such revision */
export async function loadRevision(
  db: Database,
  kit: string,
  number: number,
): Promise<{ number: number; cause: string; at: string; document: Kit }> {
  const [row] = Number.isSafeInteger(number)
    ? await db
        .select()
        .from(revisions)
        .where(and(eq(revisions.kit, kit), eq(revisions.number, number)))
    : [];
  if (!row) throw new KitError('not-found', `This kit has no revision ${number}. Look at its list of revisions.`, String(number));
  return { number: row.number, cause: row.cause, at: row.at.toISOString(), document: row.document };
}
