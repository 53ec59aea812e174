import { emptyKit } from '@itchkit/core/document';
import { newestOf } from '../rulebooks';
import { database } from './database';
import { createKit, listKits, setSummary } from './kit-store';
import { buildPackage } from './package-store';
import { migrateDatabase } from './prepare';
import { deleteRulebook, listRulebooks, loadRulebook, saveRulebook } from './rulebook-store';

const db = () => database();
beforeAll(() => migrateDatabase(db()));
afterAll(() => db().$client.end());

const own = (fields: object = {}) => ({ ...newestOf('plotwick')!, id: 'my-park', version: '0.1.0', title: 'My park', ...fields });

test('an own rulebook is kept in all its versions; one that a kit is pinned to is not written over', async () => {
  await saveRulebook(db(), own());
  await saveRulebook(db(), own({ title: 'My other park' }));
  const kit = await createKit(db(), { ...emptyKit('Bench'), targets: [{ rulebook: 'my-park', version: '0.1.0' }] }, 'made');
  await expect(saveRulebook(db(), own({ title: 'Not mine' }))).rejects.toThrow('“Bench” is pinned to version 0.1.0');
  // The same again is no change.
  await saveRulebook(db(), own({ title: 'My other park' }));
  await saveRulebook(db(), own({ version: '0.1.1', title: 'Not mine' }));
  expect((await listRulebooks(db())).map(({ version, title }) => `${version} ${title}`).sort()).toEqual([
    '0.1.0 My other park',
    '0.1.1 Not mine',
  ]);
  expect((await loadRulebook(db(), { rulebook: 'my-park', version: '0.1.0' }))!.title).toBe('My other park');

  expect(await deleteRulebook(db(), 'my-park')).toBe(2);
  await expect(deleteRulebook(db(), 'my-park')).rejects.toThrow('not here any more');
  await expect(buildPackage(db(), kit)).rejects.toThrow('The rulebook “my-park” 0.1.0 is not here any more');
});

test('shipped rulebooks, older versions too, are there and can not be changed', async () => {
  expect((await loadRulebook(db(), { rulebook: 'brinework', version: '1.0.0' }))!.rules.length).toBeLessThan(
    newestOf('brinework')!.rules.length,
  );
  expect(await loadRulebook(db(), { rulebook: 'brinework', version: '9.9.9' })).toBeUndefined();
  await expect(saveRulebook(db(), { ...newestOf('brinework')! })).rejects.toThrow('ships with Itch Kit');
  await expect(saveRulebook(db(), own({ rules: [{ id: 'x' }] }))).rejects.toMatchObject({ where: 'rules.0.check' });
});

test('what is owed to each target is kept for the shelf, until the kit changes', async () => {
  const id = await createKit(db(), { ...emptyKit('Lamp'), targets: [{ rulebook: 'plotwick', version: '1.0.0' }] }, 'made');
  const owed = { plotwick: { shape: { stop: 2, warn: 0, note: 1 } } };
  await setSummary(db(), id, 1, { counts: { stop: 2, warn: 0, note: 1 }, owed });
  const row = async () => (await listKits(db())).find((kit) => kit.id === id)!;
  expect((await row()).owed).toEqual(owed);
  await setSummary(db(), id, 7, { counts: { stop: 0, warn: 0, note: 0 }, owed: {} });
  expect([(await row()).owed, (await row()).counts]).toEqual([null, null]);
});
