import Joi from 'joi';
import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { collectBlobs } from './collect-blobs';
import type { Database } from './database';
import { kits, settings } from './schema';

/** How long what is kept: days. */
export interface HistoryPolicy {
  /** Every revision. */
  allDays: number;
  /** After that the last one of each hour; later the last one of each day, for good. */
  hourlyDays: number;
  /** Kits that were taken off the shelf. */
  binDays: number;
}

export const DEFAULT_POLICY: HistoryPolicy = { allDays: 1, hourlyDays: 14, binDays: 30 };

const days = (least: number) => Joi.number().integer().min(least).max(36_500).required();
export const policySchema = Joi.object({ allDays: days(1), hourlyDays: days(1), binDays: days(1) } satisfies Record<
  keyof HistoryPolicy,
  Joi.Schema
>);

const NAME = 'history';

export async function loadPolicy(db: Database): Promise<HistoryPolicy> {
  const [row] = await db.select({ value: settings.value }).from(settings).where(eq(settings.name, NAME));
  const { error, value } = policySchema.validate(row?.value ?? DEFAULT_POLICY);
  return error ? DEFAULT_POLICY : (value as HistoryPolicy);
}

export async function savePolicy(db: Database, value: HistoryPolicy): Promise<void> {
  await db.insert(settings).values({ name: NAME, value }).onConflictDoUpdate({ target: settings.name, set: { value } });
}

/** What is kept, for people to see. */
export interface HistoryFigures {
  policy: HistoryPolicy;
  revisions: number;
  /** Bytes that revisions and data blocks take on the disk. */
  bytes: number;
  bin: { id: string; name: string; deletedAt: string }[];
}

export async function historyFigures(db: Database): Promise<HistoryFigures> {
  const { rows } = await db.execute<{ revisions: number; bytes: number }>(sql`
    select (select count(*)::int from revisions) as revisions,
      (pg_total_relation_size('revisions') + pg_total_relation_size('blobs'))::float8 as bytes`);
  const bin = await db
    .select({ id: kits.id, name: kits.name, deletedAt: kits.deletedAt })
    .from(kits)
    .where(isNotNull(kits.deletedAt))
    .orderBy(desc(kits.deletedAt));
  return { policy: await loadPolicy(db), ...rows[0], bin: bin.map((row) => ({ ...row, deletedAt: row.deletedAt!.toISOString() })) };
}

/** Throws away a kit that is off the shelf, before its time. Gives whether there was one. */
export async function emptyOut(db: Database, id: string): Promise<boolean> {
  const rows = await db
    .delete(kits)
    .where(and(eq(kits.id, id), isNotNull(kits.deletedAt)))
    .returning({ id: kits.id });
  return rows.length > 0;
}

/**
 * Lets go of old revisions and of kits that are off the shelf, as the policy says. The newest revision of a kit, its first, those with a
 * name or a note, and those that a package was built of stay. Gives how many revisions went.
 */
export async function thinHistory(db: Database, { allDays, hourlyDays, binDays }: HistoryPolicy): Promise<number> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`delete from kits where deleted_at < now() - make_interval(days => ${binDays})`);
    const { rowCount } = await tx.execute(sql`
      with old as (
        select kit, number,
          case when at > now() - make_interval(days => ${Math.max(allDays, hourlyDays)}) then date_trunc('hour', at) else date_trunc('day', at) end as span
        from revisions
        where at < now() - make_interval(days => ${allDays}) and number > 1 and name is null and notes is null
          and not exists (select 1 from kits where kits.id = revisions.kit and kits.revision = revisions.number)
          and not exists (select 1 from packages where packages.kit = revisions.kit and packages.revision = revisions.number)
      ),
      ranked as (select kit, number, row_number() over (partition by kit, span order by number desc) as place from old)
      delete from revisions using ranked
      where ranked.place > 1 and revisions.kit = ranked.kit and revisions.number = ranked.number`);
    if (rowCount)
      await tx.execute(sql`
        delete from blob_uses
        where last is not null and not exists (
          select 1 from revisions
          where revisions.kit = blob_uses.kit and revisions.number between blob_uses.first and blob_uses.last)`);
    return rowCount ?? 0;
  });
}

/** Any number that no other lock of this database has. */
const LOCK = 4_142_001;

/** Thins the history and collects blobs, in one process of the application at a time. */
export async function keepHouse(db: Database): Promise<void> {
  await db.transaction(async (tx) => {
    const { rows } = await tx.execute<{ ours: boolean }>(sql`select pg_try_advisory_xact_lock(${LOCK}) as ours`);
    if (!rows[0].ours) return;
    await thinHistory(db, await loadPolicy(db));
    await collectBlobs(db);
  });
}
