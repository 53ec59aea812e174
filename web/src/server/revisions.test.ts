import { sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { buildNextSluiceCraneGlb, buildSluiceCraneGlb } from '@itchkit/demo';
import { callOf, fieldChanges, keptBlobsOf, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { compareVersion, inSpaceOf, matchVersion, takeVersion } from '@itchkit/core/intake';
import { removeParts, renameParts } from '@itchkit/core/shape';
import { runCall } from '@itchkit/core/operations';
import { loadBlobs, missingBlobs, storeBlobs } from './blob-store';
import { collectBlobs } from './collect-blobs';
import { database } from './database';
import { loadKit, saveKit } from './kit-store';
import { migrateDatabase } from './prepare';
import { listRevisions, loadRevision } from './revision-store';
import { readBeside, readSource, takeInFile } from './take-in';

const db = () => database();
beforeAll(() => migrateDatabase(db()));
afterAll(() => db().$client.end());

const save = (id: string, base: number, before: Kit, after: Kit, cause: string) =>
  saveKit(db(), id, { base, key: nanoid(), changes: fieldChanges(before, after), cause });

async function blobsFor(...kits: Kit[]): Promise<MemoryBlobs> {
  const store = new MemoryBlobs();
  for (const kit of kits) for (const [sha, bytes] of await loadBlobs(db(), keptBlobsOf(kit))) store.load(sha, bytes);
  return store;
}

test('revisions are listed with their causes, the newest first, and each can be opened', async () => {
  const id = await takeInFile(db(), { bytes: await buildSluiceCraneGlb(8), fileName: 'crane.glb', sha: null });
  const { document } = await loadKit(db(), id);
  const part = Object.keys(document.parts)[0];
  const { kit } = runCall(document, callOf(renameParts, { names: { [part]: 'quay' } }), new MemoryBlobs());
  await save(id, 1, document, kit, 'Rename a part');
  expect((await listRevisions(db(), id)).map(({ number, cause }) => [number, cause])).toEqual([
    [2, 'Rename a part'],
    [1, 'taken in from “crane.glb”'],
  ]);
  expect((await loadRevision(db(), id, 1)).document).toEqual(document);
  expect((await loadRevision(db(), id, 2)).document.parts[part].name).toBe('quay');
  await expect(loadRevision(db(), id, 7)).rejects.toThrow('no revision 7');
  await expect(loadRevision(db(), id, NaN)).rejects.toThrow('no revision');
  await expect(listRevisions(db(), 'nowhere')).rejects.toThrow('not on the shelf');
});

test('blobs that nothing names go, those of revisions and the source stay, and young ones wait', async () => {
  const id = await takeInFile(db(), { bytes: await buildSluiceCraneGlb(9), fileName: 'crane.glb', sha: null });
  const { document } = await loadKit(db(), id);
  const { kit } = runCall(document, callOf(removeParts, { parts: Object.keys(document.parts) }), new MemoryBlobs());
  await save(id, 1, document, kit, 'Delete all');
  const stray = new Uint8Array([1, 2, 3, Date.now() & 255]);
  const store = new MemoryBlobs();
  const sha = store.put(stray);
  await storeBlobs(db(), store.entries());
  expect(await collectBlobs(db())).toBe(0);
  await db().execute(sql`update blobs set stored_at = now() - interval '2 days'`);
  expect(await collectBlobs(db())).toBeGreaterThanOrEqual(1);
  expect(await missingBlobs(db(), [sha])).toEqual([sha]);
  expect(await missingBlobs(db(), keptBlobsOf(document))).toEqual([]);
});

test('a new version is read beside the kit, matched to its source, and taken in with one change', async () => {
  const id = await takeInFile(db(), { bytes: await buildSluiceCraneGlb(8), fileName: 'crane.glb', sha: null });
  const { document, revision } = await loadKit(db(), id);
  const base = (await readSource(db(), id))!;
  expect(base.source!.counts).toEqual(document.source!.counts);
  const next = await readBeside(db(), {
    bytes: await buildNextSluiceCraneGlb({ detail: 8, rename: { Boom: 'Jib' }, remove: ['Ladder'] }),
    fileName: 'crane-2.glb',
    sha: null,
  });
  expect((await loadKit(db(), id)).revision).toBe(revision);
  const blobs = await blobsFor(document, base, next);
  const [a, b] = [inSpaceOf(document, base, blobs), inSpaceOf(document, next, blobs)];
  const matches = matchVersion(document, a, b, blobs);
  expect(
    compareVersion(document, a, b, matches, blobs)
      .filter((row) => row.state === 'gone')
      .map((row) => row.name),
  ).toEqual(['Ladder']);
  const pairs = Object.fromEntries(Object.entries(matches).map(([one, { part }]) => [one, part]));
  const { kit } = runCall(document, callOf(takeVersion, { next: b, base: a, matches: pairs }), blobs);
  await storeBlobs(db(), [...blobs.entries()]);
  await save(id, revision, document, kit, 'Take in');
  expect((await loadKit(db(), id)).document).toEqual(kit);
  expect(Object.values(kit.parts).map((part) => part.name)).toContain('Jib');
});
