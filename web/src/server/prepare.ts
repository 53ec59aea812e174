import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { join } from 'node:path';
import {
  brassDiver,
  foghornCabinet,
  hillTramHalt,
  hillTramHaltFinished,
  hillTramHaltMoving,
  hillTramHaltOnTiles,
  lanternRayMoving,
  nightWatchKeeperModelled,
  nightWatchKeeperFinished,
  nightWatchKeeperTangled,
  nightWatchKeeperMoving,
  periscopeDiver,
  sluiceCrane,
  sluiceCraneFinished,
  sluiceCraneMiswired,
  tideCarouselFinished,
  tideLock,
  tideLockFinished,
} from '@itchkit/demo';
import { keptBlobsOf, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { countGrades, runChecks, type Rulebook } from '@itchkit/core/rulebook';
import { allRulebooks } from '../rulebooks';
import { storeBlobs } from './blob-store';
import { openDatabase, type Database } from './database';
import { createKit } from './kit-store';
import { kits } from './schema';

export async function migrateDatabase(db: Database): Promise<void> {
  await migrate(db, { migrationsFolder: join(import.meta.dirname, 'migrations') });
}

/** Puts the demo kits on the shelf. */
export async function seedDemoKits(db: Database): Promise<void> {
  const book = (id: string) => allRulebooks().find((rulebook) => rulebook.id === id)!;
  const [brinework, plotwick, emberfold, cubbin, lanternlot, glasswink] = [
    'brinework',
    'plotwick',
    'emberfold',
    'cubbin',
    'lanternlot',
    'glasswink',
  ].map(book);
  const builds: [Rulebook, (blobs: MemoryBlobs) => Promise<Kit>][] = [
    [emberfold, (blobs) => nightWatchKeeperModelled(emberfold, blobs)],
    [glasswink, (blobs) => brassDiver(glasswink, blobs)],
    [cubbin, (blobs) => periscopeDiver(cubbin, blobs)],
    [cubbin, (blobs) => lanternRayMoving(cubbin, blobs)],
    [emberfold, (blobs) => nightWatchKeeperMoving(emberfold, blobs)],
    [emberfold, (blobs) => nightWatchKeeperTangled(emberfold, blobs)],
    [emberfold, (blobs) => nightWatchKeeperFinished(emberfold, blobs)],
    [lanternlot, (blobs) => foghornCabinet(lanternlot, blobs)],
    [plotwick, (blobs) => tideCarouselFinished(plotwick, blobs)],
    [plotwick, (blobs) => hillTramHaltFinished(plotwick, blobs)],
    [plotwick, (blobs) => hillTramHaltOnTiles(plotwick, blobs)],
    [plotwick, (blobs) => hillTramHalt(plotwick, blobs)],
    [plotwick, (blobs) => hillTramHaltMoving(plotwick, blobs)],
    [brinework, (blobs) => tideLockFinished(brinework, blobs)],
    [brinework, (blobs) => tideLock(brinework, blobs)],
    [brinework, (blobs) => sluiceCraneMiswired(brinework, blobs)],
    [brinework, (blobs) => sluiceCraneFinished(brinework, blobs)],
    [brinework, (blobs) => sluiceCrane(brinework, blobs)],
  ];
  for (const [rulebook, build] of builds) await seedKit(db, rulebook, build);
}

/** Puts one kit on the shelf. */
export async function seedKit(db: Database, rulebook: Rulebook, build: (blobs: MemoryBlobs) => Promise<Kit>): Promise<void> {
  const blobs = new MemoryBlobs();
  const kit = await build(blobs);
  const kept = keptBlobsOf(kit);
  await storeBlobs(
    db,
    [...blobs.entries()].filter(([sha]) => kept.has(sha)),
  );
  await createKit(db, kit, 'demo kit', { counts: countGrades(runChecks({ kit, rulebook, blobs })) });
}

/** Migrates, and fills a shelf that has never had anything on it (ITCHKIT_SEED=no leaves it empty). */
async function prepare(): Promise<void> {
  const db = openDatabase(process.env.DATABASE_URL!);
  try {
    await migrateDatabase(db);
    const [any] = await db.select({ id: kits.id }).from(kits).limit(1);
    if (!any && process.env.ITCHKIT_SEED !== 'no') await seedDemoKits(db);
  } finally {
    await db.$client.end();
  }
}

/** The database's own words, where a query's error only wraps them. */
function reasonOf(error: unknown): string {
  const cause = error instanceof Error && error.cause instanceof Error ? error.cause : error;
  return cause instanceof Error ? cause.message || cause.name : String(cause);
}

if (process.argv[1]?.endsWith('prepare.ts')) {
  prepare().catch((error: unknown) => {
    process.stderr.write(`The database could not be prepared: ${reasonOf(error)}. Is DATABASE_URL right, and the server running?\n`);
    process.exitCode = 1;
  });
}
