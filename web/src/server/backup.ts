// `npm run backup` and `npm run restore`: the whole shelf as a folder of files, and back.
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { asc, eq } from 'drizzle-orm';
import Joi from 'joi';
import { archiveName } from '@itchkit/core/ship';
import { checkRulebook } from '@itchkit/core/rulebook';
import { exportKit, importKit } from './archive-store';
import { openDatabase, type Database } from './database';
import { loadPolicy, policySchema, savePolicy, type HistoryPolicy } from './history-store';
import { migrateDatabase } from './prepare';
import { listRulebooks, saveRulebook } from './rulebook-store';
import { kits } from './schema';

const FORMAT = 'itchkit.shelf/1';
const INDEX = 'shelf.json';

interface Index {
  format: typeof FORMAT;
  kits: { id: string; name: string; file: string }[];
  rulebooks: string[];
  policy: HistoryPolicy;
}

const indexSchema = Joi.object({
  format: Joi.valid(FORMAT).required(),
  kits: Joi.array()
    .items(
      Joi.object({
        id: Joi.string()
          .pattern(/^[\w-]{1,64}$/)
          .required(),
        name: Joi.string().required(),
        file: Joi.string()
          .pattern(/^[^/\\]+$/)
          .required(),
      }),
    )
    .required(),
  rulebooks: Joi.array()
    .items(Joi.string().pattern(/^[^/\\]+$/))
    .required(),
  policy: policySchema.required(),
});

/** A backup that can't be written or read, in a sentence. */
export class BackupError extends Error {}

/** Writes every kit with its history, and people's own rulebooks, into a new folder. The bin, packages and pictures are left out. */
export async function backupShelf(db: Database, folder: string): Promise<number> {
  if (existsSync(join(folder, INDEX))) throw new BackupError(`“${folder}” holds a backup already. Give another folder.`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const index: Index = { format: FORMAT, kits: [], rulebooks: [], policy: await loadPolicy(db) };
  const write = (file: string, data: Uint8Array | string) => {
    writeFileSync(join(folder, `${file}.part`), data, { mode: 0o600 });
    renameSync(join(folder, `${file}.part`), join(folder, file));
  };
  const rows = await db.select({ id: kits.id, name: kits.name, deletedAt: kits.deletedAt }).from(kits).orderBy(asc(kits.createdAt));
  for (const { id, name, deletedAt } of rows) {
    if (deletedAt) continue;
    const { bytes } = await exportKit(db, id, { withHistory: true });
    const file = `${id}-${archiveName({ name } as Parameters<typeof archiveName>[0])}`;
    write(file, bytes);
    index.kits.push({ id, name, file });
  }
  for (const rulebook of await listRulebooks(db)) {
    const file = `${rulebook.id}-${rulebook.version}.rulebook.json`;
    write(file, JSON.stringify(rulebook, null, 2));
    index.rulebooks.push(file);
  }
  // Last: a backup that was broken off has none.
  write(INDEX, JSON.stringify(index, null, 2));
  return index.kits.length;
}

/** Puts back what a backup holds. A kit that is here already, in the bin too, is left as it is. Gives how many were put back. */
export async function restoreShelf(db: Database, folder: string): Promise<number> {
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(join(folder, INDEX), 'utf8'));
  } catch {
    throw new BackupError(`“${folder}” holds no whole backup: its ${INDEX} is missing or damaged.`);
  }
  const { error } = indexSchema.validate(value, { convert: false });
  if (error) throw new BackupError(`“${join(folder, INDEX)}” does not fit: ${error.message}.`);
  const index = value as Index;
  for (const file of index.rulebooks) await saveRulebook(db, checkRulebook(JSON.parse(readFileSync(join(folder, file), 'utf8'))));
  await savePolicy(db, index.policy);
  let put = 0;
  for (const { id, file } of index.kits) {
    const [here] = await db.select({ id: kits.id }).from(kits).where(eq(kits.id, id));
    if (here) continue;
    await importKit(db, { bytes: new Uint8Array(readFileSync(join(folder, file))), fileName: file }, id);
    put++;
  }
  return put;
}

async function run(verb: string, folder: string): Promise<void> {
  const db = openDatabase(process.env.DATABASE_URL!);
  try {
    await migrateDatabase(db);
    const count = verb === 'backup' ? await backupShelf(db, folder) : await restoreShelf(db, folder);
    process.stdout.write(
      `${count} ${count === 1 ? 'kit was' : 'kits were'} ${verb === 'backup' ? 'written to' : 'put back from'} ${folder}\n`,
    );
  } finally {
    await db.$client.end();
  }
}

if (process.argv[1]?.endsWith('backup.ts')) {
  run(process.argv[2], process.argv[3]).then(
    () => process.exit(0),
    (error: unknown) => {
      process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
      process.exit(1);
    },
  );
}
