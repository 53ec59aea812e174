import { and, eq, isNull, sql } from 'drizzle-orm';
import { KitError, nameList, type Kit } from '@itchkit/core/document';
import { checkRulebook, compareRulebooks, type Rulebook } from '@itchkit/core/rulebook';
import { isShipped, rulebookOf } from '../rulebooks';
import type { Database } from './database';
import { kits, rulebooks } from './schema';

/** People's own rulebooks, all versions. */
export async function listRulebooks(db: Database): Promise<Rulebook[]> {
  const rows = await db.select({ document: rulebooks.document }).from(rulebooks);
  return rows.map((row) => row.document);
}

/** The rulebook that a kit is pinned to, shipped or own; undefined where it is not here. */
export async function loadRulebook(db: Database, target: Kit['targets'][number]): Promise<Rulebook | undefined> {
  if (isShipped(target.rulebook)) return rulebookOf(target);
  const [row] = await db
    .select({ document: rulebooks.document })
    .from(rulebooks)
    .where(and(eq(rulebooks.id, target.rulebook), eq(rulebooks.version, target.version)));
  return row && checkRulebook(row.document);
}

/**
 * Keeps a version of a person's own rulebook. A version that is there already is replaced only where no kit is pinned to it.
 *
 * @throws {RulebookError} where it does not hold together
 */
export async function saveRulebook(db: Database, value: unknown): Promise<Rulebook> {
  const rulebook = checkRulebook(value);
  if (isShipped(rulebook.id))
    throw new KitError(
      'rulebook-shipped',
      `“${rulebook.id}” ships with Itch Kit and can't be changed. Give your copy an id of its own.`,
      'id',
    );
  const pinned = await pinnedKits(db, rulebook.id, rulebook.version);
  const before = await loadRulebook(db, { rulebook: rulebook.id, version: rulebook.version });
  if (before && pinned.length > 0 && compareRulebooks(before, rulebook).length > 0)
    throw new KitError(
      'rulebook-pinned',
      `${nameList(pinned)} ${pinned.length === 1 ? 'is' : 'are'} pinned to version ${rulebook.version}. Save it as a newer version.`,
      'version',
    );
  await db
    .insert(rulebooks)
    .values({ id: rulebook.id, version: rulebook.version, document: rulebook })
    .onConflictDoUpdate({ target: [rulebooks.id, rulebooks.version], set: { document: rulebook, savedAt: new Date() } });
  return rulebook;
}

/** Deletes all versions of a person's own rulebook. Kits that are pinned to it keep their target; it works again once it is imported. */
export async function deleteRulebook(db: Database, id: string): Promise<number> {
  const gone = await db.delete(rulebooks).where(eq(rulebooks.id, id)).returning({ version: rulebooks.version });
  if (gone.length === 0) throw new KitError('not-found', 'That rulebook is not here any more. Look at the list of rulebooks.', id);
  return gone.length;
}

async function pinnedKits(db: Database, id: string, version: string): Promise<string[]> {
  const target = JSON.stringify([{ rulebook: id, version }]);
  const rows = await db
    .select({ name: kits.name })
    .from(kits)
    .where(and(isNull(kits.deletedAt), sql`${kits.document} -> 'targets' @> ${target}::jsonb`));
  return rows.map((row) => row.name);
}
