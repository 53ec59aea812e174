import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { Client } from 'pg';
import { sluiceCraneFinished } from '@itchkit/demo';
import { blobsOf, hashBytes, keptBlobsOf } from '@itchkit/core/document';
import { allRulebooks } from '../rulebooks';
import { exportKit, importKit } from './archive-store';
import { backupShelf, restoreShelf } from './backup';
import { loadBlobs, missingBlobs } from './blob-store';
import { database, openDatabase } from './database';
import { savePolicy } from './history-store';
import { createKit, listKits, loadKit, saveKit } from './kit-store';
import { buildPackage } from './package-store';
import { ownDatabase } from './own-database';
import { migrateDatabase, seedKit } from './prepare';
import { listRevisions, loadRevision, nameRevision } from './revision-store';
import { loadRulebook, saveRulebook } from './rulebook-store';
import { takeInFile } from './take-in';

const db = () => database();
const brinework = allRulebooks().find(({ id }) => id === 'brinework')!;
let crane = '';

let dropDatabase = () => Promise.resolve();
beforeAll(async () => {
  dropDatabase = await ownDatabase('archive');
  await migrateDatabase(db());
  await seedKit(db(), brinework, (blobs) => sluiceCraneFinished(brinework, blobs));
  crane = (await listKits(db()))[0].id;
});
afterAll(async () => {
  await db().$client.end();
  await dropDatabase();
});

test('a kit exported and dropped on the shelf again is the same document and gives the same package, byte by byte', async () => {
  const { bytes, fileName } = await exportKit(db(), crane, { withHistory: false });
  expect(fileName).toBe('sluice_crane_finished.kit.zip');
  const again = await takeInFile(db(), { bytes, fileName, sha: null });
  const [was, is] = [await loadKit(db(), crane), await loadKit(db(), again)];
  expect(is.document).toEqual(was.document);
  expect((await buildPackage(db(), again)).sha).toBe((await buildPackage(db(), crane)).sha);
  expect(hashBytes((await exportKit(db(), again, { withHistory: false })).bytes)).toBe(hashBytes(bytes));
});

test('with its revisions: their numbers, causes, times and names come along, and their data blocks', async () => {
  await saveKit(db(), crane, {
    base: 1,
    key: 'archive-1',
    cause: 'Rename',
    changes: [{ path: ['name'], was: 'Sluice crane, finished', now: 'Crane' }],
  });
  await nameRevision(db(), crane, 1, 'As it came');
  const { bytes, fileName } = await exportKit(db(), crane, { withHistory: true });
  const again = await importKit(db(), { bytes, fileName });
  expect(await listRevisions(db(), again)).toEqual(await listRevisions(db(), crane));
  expect((await loadRevision(db(), again, 1)).document).toEqual((await loadRevision(db(), crane, 1)).document);
  expect((await loadKit(db(), again)).revision).toBe(2);
  expect(await missingBlobs(db(), keptBlobsOf((await loadRevision(db(), again, 1)).document))).toEqual([]);
  await saveKit(db(), again, { base: 2, key: 'archive-2', cause: 'On', changes: [{ path: ['name'], was: 'Crane', now: 'On' }] });
});

test('a person’s own rulebook travels with the kit; one that says other things here is not written over', async () => {
  const own = { ...brinework, id: 'quayworks', version: '0.1.0', title: 'Quayworks' };
  await saveRulebook(db(), own);
  const { document } = await loadKit(db(), crane);
  const id = await createKit(db(), { ...document, targets: [{ rulebook: 'quayworks', version: '0.1.0' }] }, 'made');
  const { bytes, fileName } = await exportKit(db(), id, { withHistory: false });
  await db().execute(sql`delete from rulebooks`);
  const again = await importKit(db(), { bytes, fileName });
  expect((await loadKit(db(), again)).document.targets).toEqual([{ rulebook: 'quayworks', version: '0.1.0' }]);
  expect((await loadRulebook(db(), { rulebook: 'quayworks', version: '0.1.0' }))?.title).toBe('Quayworks');
  await db().execute(sql`delete from kits where document -> 'targets' @> '[{"rulebook": "quayworks"}]'`);
  await saveRulebook(db(), { ...own, title: 'Another' });
  await expect(importKit(db(), { bytes, fileName })).rejects.toThrow(/says other things than the one here/);
  expect((await loadRulebook(db(), { rulebook: 'quayworks', version: '0.1.0' }))?.title).toBe('Another');
});

test('an archive that was tampered with is refused, and nothing is kept of it', async () => {
  const { bytes, fileName } = await exportKit(db(), crane, { withHistory: false });
  const before = (await listKits(db())).length;
  for (const end of [bytes.length - 10, bytes.length >> 1, 100])
    await expect(takeInFile(db(), { bytes: bytes.slice(0, end), fileName, sha: null })).rejects.toThrow(/“sluice_crane|“crane/);
  const spoilt = bytes.slice();
  for (let i = 2000; i < spoilt.length - 20_000; i += 997) spoilt[i] ^= 255;
  await expect(takeInFile(db(), { bytes: spoilt, fileName, sha: null })).rejects.toThrow();
  expect(await listKits(db())).toHaveLength(before);
});

test('a whole shelf is written to a folder and put back into a fresh database, with nothing left over there to need', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'shelf-'));
  const name = `restored_${process.pid}`;
  const client = new Client(process.env.DATABASE_URL);
  await client.connect();
  await client.query(`create database ${name}`);
  const fresh = openDatabase(process.env.DATABASE_URL!.replace(/\/[^/]*$/, `/${name}`));
  try {
    await savePolicy(db(), { allDays: 2, hourlyDays: 5, binDays: 10 });
    const count = await backupShelf(db(), folder);
    const was = await listKits(db());
    expect(count).toBe(was.length);
    await expect(backupShelf(db(), folder)).rejects.toThrow(/holds a backup already/);
    await migrateDatabase(fresh);
    expect(await restoreShelf(fresh, folder)).toBe(count);
    for (const { id } of was) {
      const restored = await loadKit(fresh, id);
      expect(restored).toEqual(await loadKit(db(), id));
      const sha = [...blobsOf(restored.document)];
      expect((await loadBlobs(fresh, sha)).size).toBe(sha.length);
      expect(await listRevisions(fresh, id)).toEqual(await listRevisions(db(), id));
    }
    expect(await loadRulebook(fresh, { rulebook: 'quayworks', version: '0.1.0' })).toBeDefined();
    // Once more does nothing twice.
    expect(await restoreShelf(fresh, folder)).toBe(0);
    expect(readdirSync(folder).some((file) => file.endsWith('.part'))).toBe(false);
    writeFileSync(join(folder, 'shelf.json'), '{');
    await expect(restoreShelf(fresh, folder)).rejects.toThrow(/no whole backup/);
  } finally {
    await fresh.$client.end();
    await client.query(`drop database ${name}`);
    await client.end();
    rmSync(folder, { recursive: true });
  }
  expect(existsSync(folder)).toBe(false);
});
