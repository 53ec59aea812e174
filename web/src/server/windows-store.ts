import { and, eq, sql } from 'drizzle-orm';
import { tell } from './changes-told';
import type { Database } from './database';
import { windows } from './schema';

/** A window that has the kit open. */
export interface OpenWindow {
  window: string;
  name: string;
}

/** One that was not seen for so long has been closed without a word. */
const UNSEEN = '30 seconds';

/** Those that have a kit open, in the order of their names. */
export async function openWindows(db: Database, kit: string): Promise<OpenWindow[]> {
  return db
    .select({ window: windows.window, name: windows.name })
    .from(windows)
    .where(and(eq(windows.kit, kit), sql`${windows.seenAt} > now() - ${UNSEEN}::interval`))
    .orderBy(windows.name, windows.window);
}

/** A window is there, still or anew; those that are gone without a word are forgotten. */
export async function seeWindow(db: Database, kit: string, { window, name }: OpenWindow): Promise<void> {
  const values = { kit, window, name, seenAt: sql`now()` };
  const set = { name, seenAt: sql`now()` };
  await db
    .insert(windows)
    .values(values)
    .onConflictDoUpdate({ target: [windows.kit, windows.window], set });
  await db.delete(windows).where(sql`${windows.seenAt} < now() - ${UNSEEN}::interval`);
}

/** A window has come, under a name. */
export async function enterWindow(db: Database, kit: string, window: OpenWindow): Promise<void> {
  await seeWindow(db, kit, window);
  await tell(db, { kit, windows: true });
}

/** A window has been closed. */
export async function leaveWindow(db: Database, kit: string, window: string): Promise<void> {
  await db.delete(windows).where(and(eq(windows.kit, kit), eq(windows.window, window)));
  await tell(db, { kit, windows: true });
}
