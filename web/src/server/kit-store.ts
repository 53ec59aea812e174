import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import {
  blobsOf,
  checkKit,
  checkTouched,
  cutText,
  FieldPathError,
  KitError,
  makeChanges,
  type FieldChange,
  type Kit,
} from '@itchkit/core/document';
import type { GradeCounts, OwedByStage } from '@itchkit/core/rulebook';
import type { ArchivedRevision } from '@itchkit/core/ship';
import { missingBlobs } from './blob-store';
import { noteBlobUses } from './blob-uses';
import { checkStored } from './check-stored';
import { tell } from './changes-told';
import type { Database } from './database';
import { kits, revisions } from './schema';

/** Characters of a kit's name. */
const MOST_NAME = 200;

export class KitNotFoundError extends KitError {
  constructor(id: string) {
    super('not-found', 'That kit is not on the shelf any more. Go back to the shelf to see what is.', id);
  }
}

/** The change was made on a revision that is no longer the newest. */
export class StaleRevisionError extends KitError {
  override readonly told;

  constructor(
    readonly revision: number,
    readonly document: Kit,
  ) {
    super('stale', 'This kit was changed elsewhere in the meantime.');
    this.told = { revision, document };
  }
}

export class BlobsNotSentError extends KitError {
  override readonly told;

  constructor(readonly missing: string[]) {
    super('blobs-missing', 'Some data blocks of this change have not arrived yet. They will be sent, and the change again.');
    this.told = { missing };
  }
}

export interface KitRow {
  id: string;
  revision: number;
  document: Kit;
}

export interface ShelfRow {
  id: string;
  name: string;
  targets: Kit['targets'];
  parts: number;
  triangles: number | null;
  revision: number;
  counts: GradeCounts | null;
  owed: Record<string, OwedByStage> | null;
  thumbnailRevision: number | null;
  changedAt: string;
}

/** Triangles that a document draws, counted where it lies: each part's mesh, as often as it is shown. */
const TRIANGLES = sql<number>`(
  select coalesce(sum((primitive -> 'indices' ->> 'count')::numeric / 3), 0)::float8
  from jsonb_each(${kits.document} -> 'parts') as part,
    jsonb_array_elements(${kits.document} -> 'meshes' -> (part.value ->> 'mesh') -> 'primitives') as primitive
)`;

/** What the shelf shows of each kit; the documents stay in the database. */
export async function listKits(db: Database): Promise<ShelfRow[]> {
  const rows = await db
    .select({
      id: kits.id,
      name: kits.name,
      targets: sql<Kit['targets']>`${kits.document} -> 'targets'`,
      parts: sql<number>`(select count(*)::int from jsonb_object_keys(${kits.document} -> 'parts'))`,
      triangles: TRIANGLES,
      revision: kits.revision,
      counts: kits.counts,
      owed: kits.owed,
      countsRevision: kits.countsRevision,
      thumbnailRevision: kits.thumbnailRevision,
      changedAt: kits.changedAt,
    })
    .from(kits)
    .where(isNull(kits.deletedAt))
    .orderBy(desc(kits.changedAt));
  return rows.map(({ countsRevision, counts, owed, changedAt, ...row }) => ({
    ...row,
    counts: countsRevision === row.revision ? counts : null,
    owed: countsRevision === row.revision ? owed : null,
    changedAt: changedAt.toISOString(),
  }));
}

interface CreateOptions {
  /** What it owes. */
  counts?: GradeCounts | null;
  /** Whether it was made and checked by our own reader, or comes from the shelf. */
  checked?: boolean;
  /** Its revisions, the last one its document; none where it begins here. */
  history?: ArchivedRevision[];
  id?: string;
}

/**
 * Puts a kit on the shelf. Its blobs have to be stored before.
 *
 * @throws {KitSchemaError} where it does not hold together, or its arrays do not fit their blobs
 */
export async function createKit(
  db: Database,
  document: Kit,
  cause: string,
  { counts = null, checked = false, history = [], id = nanoid(12) }: CreateOptions = {},
): Promise<string> {
  if (!checked) checkKit(document);
  await db.transaction(async (transaction) => {
    const tx = transaction as unknown as Database;
    if (!checked) await checkStored(tx, null, document);
    const revision = history.at(-1)?.number ?? 1;
    await tx.insert(kits).values({ id, name: document.name, document, revision, counts, countsRevision: counts && revision });
    if (history.length === 0) await tx.insert(revisions).values({ kit: id, number: 1, document, cause });
    for (const { number, cause: told, at, name, kit } of history)
      await tx.insert(revisions).values({ kit: id, number, document: kit, cause: told, at: new Date(at), name });
    // Blobs are noted from the first revision that is here.
    const all = history.length === 0 ? [{ number: 1, kit: document }] : history;
    for (const [i, { number, kit }] of all.entries()) await noteBlobUses(tx, id, number, all[i - 1]?.kit ?? null, kit);
  });
  return id;
}

/** @throws {KitNotFoundError} */
export async function loadKit(db: Database, id: string): Promise<KitRow> {
  const [row] = await db
    .select({ id: kits.id, revision: kits.revision, document: kits.document })
    .from(kits)
    .where(and(eq(kits.id, id), isNull(kits.deletedAt)));
  if (!row) throw new KitNotFoundError(id);
  return row;
}

/** A change of a kit as a page sends it. */
export interface Save {
  /** The revision that it was made on. */
  base: number;
  /** Its own; the same save told twice is done once. */
  key: string;
  changes: FieldChange[];
  cause: string;
}

/** The number of a kit's newest revision. @throws {KitNotFoundError} */
export async function loadRevisionNumber(db: Database, id: string): Promise<number> {
  const [row] = await db
    .select({ revision: kits.revision })
    .from(kits)
    .where(and(eq(kits.id, id), isNull(kits.deletedAt)));
  if (!row) throw new KitNotFoundError(id);
  return row.revision;
}

/**
 * Makes changes on a kit, if they were made on its newest revision and the result holds together. A save that was done already is answered
 * with the revision that it made then, whatever came since.
 *
 * @throws {StaleRevisionError} with the newest revision, otherwise
 * @throws {BlobsNotSentError} where the result needs blobs that are not stored
 * @throws {FieldPathError} where a field is not as the change says it was
 * @throws {KitSchemaError} where the result would not be a whole kit
 */
export async function saveKit(db: Database, id: string, { base, key, changes, cause }: Save): Promise<number> {
  return db.transaction(async (transaction) => {
    const tx = transaction as unknown as Database;
    const [row] = await tx
      .select({ revision: kits.revision, document: kits.document })
      .from(kits)
      .where(and(eq(kits.id, id), isNull(kits.deletedAt)))
      .for('update');
    if (!row) throw new KitNotFoundError(id);
    const [done] = await tx
      .select({ number: revisions.number })
      .from(revisions)
      .where(and(eq(revisions.kit, id), eq(revisions.key, key)));
    if (done) return done.number;
    if (row.revision !== base) throw new StaleRevisionError(row.revision, row.document);
    const { kit: document, clashes } = makeChanges(row.document, changes);
    if (clashes.length > 0) throw new FieldPathError(clashes[0].change.path);
    checkTouched(row.document, document);
    const before = blobsOf(row.document);
    const missing = await missingBlobs(
      tx,
      [...blobsOf(document)].filter((sha) => !before.has(sha)),
    );
    if (missing.length > 0) throw new BlobsNotSentError(missing);
    await checkStored(tx, row.document, document);
    const revision = base + 1;
    await tx.update(kits).set({ document, name: document.name, revision, changedAt: new Date() }).where(eq(kits.id, id));
    await tx.insert(revisions).values({ kit: id, number: revision, document, cause, key });
    await noteBlobUses(tx, id, revision, row.document, document);
    await tell(tx, { kit: id, revision });
    return revision;
  });
}

export async function setSummary(
  db: Database,
  id: string,
  revision: number,
  fields: { counts?: GradeCounts; owed?: Record<string, OwedByStage>; thumbnail?: Uint8Array },
): Promise<void> {
  const values: Partial<typeof kits.$inferInsert> = {};
  if (fields.counts) Object.assign(values, { counts: fields.counts, owed: fields.owed ?? null, countsRevision: revision });
  if (fields.thumbnail) Object.assign(values, { thumbnail: fields.thumbnail, thumbnailRevision: revision });
  const rows = await db.update(kits).set(values).where(eq(kits.id, id)).returning({ id: kits.id });
  if (rows.length === 0) throw new KitNotFoundError(id);
}

export async function loadThumbnail(db: Database, id: string): Promise<Uint8Array | null> {
  const [row] = await db.select({ thumbnail: kits.thumbnail }).from(kits).where(eq(kits.id, id));
  return row?.thumbnail ?? null;
}

/** Takes a kit off the shelf, or puts it back. Nothing is thrown away. */
export async function setDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const rows = await db
    .update(kits)
    .set({ deletedAt: deleted ? new Date() : null })
    .where(eq(kits.id, id))
    .returning({ id: kits.id });
  if (rows.length === 0) throw new KitNotFoundError(id);
}

/**
 * Makes a new kit of an id once: where there is one of that id already, from the same request told again, it is that one.
 */
export async function onceUnder(db: Database, id: string | undefined, make: () => Promise<string>): Promise<string> {
  if (id === undefined) return make();
  const isHere = async () => (await db.select({ id: kits.id }).from(kits).where(eq(kits.id, id))).length > 0;
  if (await isHere()) return id;
  try {
    return await make();
  } catch (error) {
    // Both were under way at once.
    if (await isHere()) return id;
    throw error;
  }
}

/** @param copy The copy's id, made by who asks: told twice, it is there once. */
export async function duplicateKit(db: Database, id: string, copy?: string): Promise<string> {
  return onceUnder(db, copy, () => copyKit(db, id, copy));
}

async function copyKit(db: Database, id: string, copy: string | undefined): Promise<string> {
  const { document } = await loadKit(db, id);
  const names = new Set((await db.select({ name: kits.name }).from(kits).where(isNull(kits.deletedAt))).map((row) => row.name));
  const named = (suffix: string) => cutText(document.name, MOST_NAME - suffix.length) + suffix;
  let name = named(', copy');
  for (let n = 2; names.has(name); n++) name = named(`, copy ${n}`);
  return createKit(db, { ...document, name }, `copied from “${document.name}”`, { checked: true, id: copy });
}
