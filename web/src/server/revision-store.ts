import { and, desc, eq, sql } from 'drizzle-orm';
import { KitError, type Kit } from '@itchkit/core/document';
import type { Database } from './database';
import { loadRevisionNumber } from './kit-store';
import { MOST_INTEGER } from './route';
import { revisions, type RevisionNote } from './schema';

export interface RevisionRow {
  number: number;
  cause: string;
  at: string;
  /** Given by a person; a revision with a name stays. */
  name: string | null;
  /** Changes that did not fit, kept beside it. */
  notes: RevisionNote[] | null;
}

/** At most this many are listed, the newest first; older ones can still be opened by their number. */
const LISTED = 1000;

export class RevisionNotFoundError extends KitError {
  constructor(number: number) {
    super('not-found', `This kit has no revision ${number}. Look at its list of revisions.`, String(number));
  }
}

const isNumber = (number: number): boolean => Number.isInteger(number) && number >= 0 && number <= MOST_INTEGER;

/** @throws {KitNotFoundError} */
export async function listRevisions(db: Database, kit: string): Promise<RevisionRow[]> {
  await loadRevisionNumber(db, kit);
  const rows = await db
    .select({ number: revisions.number, cause: revisions.cause, at: revisions.at, name: revisions.name, notes: revisions.notes })
    .from(revisions)
    .where(eq(revisions.kit, kit))
    .orderBy(desc(revisions.number))
    .limit(LISTED);
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** @throws {RevisionNotFoundError} */
export async function loadRevision(
  db: Database,
  kit: string,
  number: number,
): Promise<{ number: number; cause: string; at: string; document: Kit }> {
  const [row] = isNumber(number)
    ? await db
        .select()
        .from(revisions)
        .where(and(eq(revisions.kit, kit), eq(revisions.number, number)))
    : [];
  if (!row) throw new RevisionNotFoundError(number);
  return { number: row.number, cause: row.cause, at: row.at.toISOString(), document: row.document };
}

/** Puts a note beside a revision; those that are there stay. @throws {RevisionNotFoundError} */
export async function noteRevision(db: Database, kit: string, number: number, note: RevisionNote): Promise<void> {
  await loadRevisionNumber(db, kit);
  const rows = isNumber(number)
    ? await db
        .update(revisions)
        .set({ notes: sql`coalesce(${revisions.notes}, '[]'::jsonb) || ${JSON.stringify([note])}::jsonb` })
        .where(and(eq(revisions.kit, kit), eq(revisions.number, number)))
        .returning({ number: revisions.number })
    : [];
  if (rows.length === 0) throw new RevisionNotFoundError(number);
}

/** Gives a revision a name, by which it stays when others go; null takes it away. @throws {RevisionNotFoundError} */
export async function nameRevision(db: Database, kit: string, number: number, name: string | null): Promise<void> {
  await loadRevisionNumber(db, kit);
  const rows = isNumber(number)
    ? await db
        .update(revisions)
        .set({ name })
        .where(and(eq(revisions.kit, kit), eq(revisions.number, number)))
        .returning({ number: revisions.number })
    : [];
  if (rows.length === 0) throw new RevisionNotFoundError(number);
}
