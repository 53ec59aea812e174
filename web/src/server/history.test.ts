import { sql } from 'drizzle-orm';
import { emptyKit, MemoryBlobs, newPart, putArray, type Kit } from '@itchkit/core/document';
import { missingBlobs, storeBlobs } from './blob-store';
import { collectBlobs } from './collect-blobs';
import { database } from './database';
import { DEFAULT_POLICY, emptyOut, historyFigures, keepHouse, loadPolicy, savePolicy, thinHistory } from './history-store';
import { createKit, loadKit, saveKit, setDeleted } from './kit-store';
import { ownDatabase } from './own-database';
import { migrateDatabase } from './prepare';
import { nameRevision, noteRevision } from './revision-store';

const db = () => database();
let dropDatabase = () => Promise.resolve();
beforeAll(async () => {
  dropDatabase = await ownDatabase('history');
  await migrateDatabase(db());
});
afterAll(async () => {
  await db().$client.end();
  await dropDatabase();
});

let saves = 0;
const rename = (id: string, base: number, was: string, now: string) =>
  saveKit(db(), id, { base, key: `history-${saves++}`, cause: now, changes: [{ path: ['name'], was, now }] });

/** A kit of so many revisions, named after their numbers, of which number `n` is so many hours old. */
async function kitOf(revisions: number, hoursOf: (n: number) => number): Promise<string> {
  const id = await createKit(db(), emptyKit('1'), 'made');
  for (let n = 2; n <= revisions; n++) await rename(id, n - 1, String(n - 1), String(n));
  for (let n = 1; n <= revisions; n++)
    await db().execute(sql`
      update revisions set at = date_trunc('day', now()) - make_interval(hours => ${hoursOf(n)}) + interval '1 minute' * ${n}
      where kit = ${id} and number = ${n}`);
  return id;
}

const numbersOf = async (id: string) =>
  (await db().execute<{ number: number }>(sql`select number from revisions where kit = ${id} order by number`)).rows.map(
    ({ number }) => number,
  );

test('all of the last day stay, then the last of each hour, then of each day; the first and the newest always', async () => {
  // 1 to 4: a year ago. 5 to 10: five days ago, over two hours. 11 to 14: today.
  const id = await kitOf(14, (n) => {
    if (n <= 4) return 24 * 365;
    return n <= 10 ? 24 * 5 + Number(n <= 7) : 0;
  });
  await thinHistory(db(), DEFAULT_POLICY);
  expect(await numbersOf(id)).toEqual([1, 4, 7, 10, 11, 12, 13, 14]);
  expect(await thinHistory(db(), DEFAULT_POLICY)).toBe(0);
  expect((await loadKit(db(), id)).document.name).toBe('14');
});

test('what has a name or a note, or was packaged, stays', async () => {
  const id = await kitOf(9, () => 24 * 400);
  await nameRevision(db(), id, 3, 'First light');
  await noteRevision(db(), id, 5, { title: 'Late', changes: [], at: '2026-01-01' });
  await db().execute(sql`
    insert into packages (id, kit, revision, rulebook, version, file_name, sha, size, manifest, bytes)
    values (${`${id}-p`}, ${id}, 6, 'x', '1', 'x', 'x', 0, '{}', '')`);
  await thinHistory(db(), DEFAULT_POLICY);
  expect(await numbersOf(id)).toEqual([1, 3, 5, 6, 8, 9]);
  await nameRevision(db(), id, 3, null);
  await thinHistory(db(), DEFAULT_POLICY);
  expect(await numbersOf(id)).toEqual([1, 5, 6, 8, 9]);
});

test('blobs of revisions that went go too, those that any revision left needs stay, by ranges that a scan of all documents agrees with', async () => {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Blobs');
  const meshOf = (seed: number): Kit['meshes'][string] => ({
    id: 'm',
    name: 'm',
    primitives: [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from([seed, 0, 0, 1, 0, 0, 0, 1, seed]), 3) },
        indices: putArray(blobs, Uint32Array.from([0, 1, 2]), 1),
      },
    ],
  });
  kit.parts.p = newPart({ id: 'p', name: 'p', mesh: 'm' });
  kit.meshes.m = meshOf(1);
  const seeds = [1, 2, 3, 2, 4, 5, 2, 6];
  const meshes = seeds.map(meshOf);
  await storeBlobs(db(), blobs.entries());
  const id = await createKit(db(), kit, 'made');
  for (let n = 2; n <= seeds.length; n++)
    await saveKit(db(), id, {
      base: n - 1,
      key: `blob-${id}-${n}`,
      cause: 'x',
      changes: [{ path: ['meshes', 'm'], was: meshes[n - 2], now: meshes[n - 1] }],
    });
  const placeOf = (n: number) => meshes[n - 1].primitives[0].attributes.POSITION.blob;
  await db().execute(sql`update blobs set stored_at = now() - interval '3 days'`);
  await collectBlobs(db());
  expect(
    await missingBlobs(
      db(),
      seeds.map((_, i) => placeOf(i + 1)),
    ),
  ).toEqual([]);
  // All but the first, the one with seed 2 in the middle, and the newest go.
  await nameRevision(db(), id, 4, 'Kept');
  await db().execute(sql`update revisions set at = now() - interval '400 days' where kit = ${id}`);
  await thinHistory(db(), DEFAULT_POLICY);
  const left = await numbersOf(id);
  expect(left).toEqual([1, 4, 7, 8]);
  await collectBlobs(db());
  const gone = await missingBlobs(
    db(),
    seeds.map((_, i) => placeOf(i + 1)),
  );
  expect(new Set(gone)).toEqual(new Set([3, 5, 6].map(placeOf)));
  // The second opinion: what the documents that are left name is there.
  const { rows } = await db().execute<{ sha: string }>(sql`
    select distinct found[1] as sha from revisions, lateral regexp_matches(document::text, '"([0-9a-f]{64})"', 'g') as found where kit = ${id}`);
  expect(
    await missingBlobs(
      db(),
      rows.map(({ sha }) => sha),
    ),
  ).toEqual([]);
});

test('a kit off the shelf can be put back for as long as the policy says, and is gone after that', async () => {
  const [id, late] = [await createKit(db(), emptyKit('Soon'), 'made'), await createKit(db(), emptyKit('Late'), 'made')];
  for (const one of [id, late]) await setDeleted(db(), one, true);
  await db().execute(sql`update kits set deleted_at = now() - interval '31 days' where id = ${late}`);
  await keepHouse(db());
  expect((await historyFigures(db())).bin.map((kit) => kit.id)).toEqual([id]);
  await setDeleted(db(), id, false);
  expect((await loadKit(db(), id)).document.name).toBe('Soon');
  expect(await emptyOut(db(), id)).toBe(false);
  await setDeleted(db(), id, true);
  expect(await emptyOut(db(), id)).toBe(true);
});

test('the policy is kept, and one that is none is as if there were none', async () => {
  await savePolicy(db(), { allDays: 3, hourlyDays: 7, binDays: 9 });
  expect(await loadPolicy(db())).toEqual({ allDays: 3, hourlyDays: 7, binDays: 9 });
  await db().execute(sql`update settings set value = '{"allDays": -1}'`);
  expect(await loadPolicy(db())).toEqual(DEFAULT_POLICY);
});
