import assert from 'node:assert/strict';
import { callOf, emptyKit, MemoryBlobs, newPart, type Kit } from '@itchkit/core/document';
import { removeParts, renameParts, setHidden, setTransform, mirrorParts } from '@itchkit/core/shape';
import { writeArchive } from '@itchkit/core/ship';
import { freePort, startApplication, type Running } from '../application';
import { run } from '../../scripts/lib/run.mjs';
import { startThrowawayServer } from '../../scripts/lib/postgres.mjs';
import { ROOT } from '../../scripts/lib/paths.mjs';
import { join } from 'node:path';
import { LONG, SEED, seeded, startFaultProxy, type Fault, type FaultProxy } from './fault-proxy';
import { openPage, trail, type Page } from './page';

const SAVES = LONG ? 10_000 : 150;
/** So many saves between two kills of the server, of the database, and of the page. */
const BETWEEN = LONG ? { server: 400, database: 700, page: 60 } : { server: 60, database: 100, page: 20 };

/** What a person knows of the kit, kept without any of the application: parts by id. */
type Model = Map<string, { name: string; hidden: boolean; x: number }>;

const modelOf = (kit: Kit): Model =>
  new Map(Object.values(kit.parts).map(({ id, name, hidden, translation }) => [id, { name, hidden, x: translation[0] }]));
const plain = (model: Model) => Object.fromEntries([...model].sort(([a], [b]) => Number(a > b) - Number(a < b)));

const database = await startThrowawayServer({ durable: true, restarts: true });
let application: Running = undefined!;
let proxy: FaultProxy = undefined!;

async function newKit(): Promise<string> {
  const kit = emptyKit('Storm');
  for (const id of ['a', 'b', 'c', 'd']) kit.parts[id] = newPart({ id, name: id });
  const bytes = writeArchive({ kit, rulebooks: [], history: [] }, new MemoryBlobs());
  const response = await fetch(`${application.url}/api/kits`, {
    method: 'POST',
    body: bytes as Uint8Array<ArrayBuffer>,
    headers: { 'x-file-name': 'storm.kit.zip' },
  });
  return ((await response.json()) as { id: string }).id;
}

const documentOf = async (id: string): Promise<Kit> =>
  ((await (await fetch(`${application.url}/api/kits/${id}`)).json()) as { document: Kit }).document;

/**
 * Saves with lost, repeated, cut and late answers, and page, server and database killed: every operation is there in the end, once. Prints
 * what happened; ends with 1 where it is not so.
 */
async function storm(): Promise<void> {
  run(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
    env: { ...process.env, DATABASE_URL: database.url, ITCHKIT_SEED: 'no' },
    quiet: true,
    what: 'preparing the database',
  });
  const port = await freePort();
  application = await startApplication(database.url, port);
  proxy = await startFaultProxy(application.url);
  const random = seeded(SEED);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const id = await newKit();
  proxy.fault = (method, path) => {
    // Loading goes wrong too, but not always, or no page would ever open.
    if (!path.startsWith('/api/kits/') && !path.startsWith('/api/blobs')) return null;
    const chance = method === 'PATCH' ? 0.35 : 0.05;
    return random() < chance ? pick<Fault>(['lose', 'lose', 'drop', 'delay', 'repeat', 'cut']) : null;
  };
  let page = await opened(id);
  let model = modelOf(page.session.kit);
  const before: Model[] = [];
  let made = 0;
  const kills = { server: 0, database: 0, page: 0 };
  for (let n = 1; n <= SAVES; n++) {
    const { session } = page;
    const ids = [...model.keys()];
    const next: Model = new Map([...model].map(([one, fields]) => [one, { ...fields }]));
    const deed = random();
    let isStep = true;
    const one = pick(ids);
    if (deed < 0.3) {
      next.get(one)!.name = `n${n}`;
      session.run(callOf(renameParts, { names: { [one]: `n${n}` } }));
    } else if (deed < 0.55) {
      // Done twice this would be undone.
      next.get(one)!.hidden = !model.get(one)!.hidden;
      session.run(callOf(setHidden, { parts: [one], hidden: next.get(one)!.hidden }));
    } else if (deed < 0.7) {
      next.get(one)!.x = n;
      session.run(callOf(setTransform, { part: one, translation: [n, 0, 0] }));
    } else if (deed < 0.8 && ids.length < 12) {
      // Done twice this would be there twice.
      const known = new Set(ids);
      session.run(callOf(mirrorParts, { parts: [one], axis: 2, at: 0, names: { [one]: `twin${++made}` } }));
      for (const part of Object.values(session.kit.parts))
        if (!known.has(part.id)) next.set(part.id, { name: part.name, hidden: part.hidden, x: part.translation[0] });
      assert.equal(next.size, ids.length + 1);
    } else if (deed < 0.88 && ids.length > 3) {
      next.delete(one);
      session.run(callOf(removeParts, { parts: [one] }));
    } else if (before.length > 0 && session.store.getState().undo.length > 0) {
      session.undo();
      isStep = false;
      model = before.pop()!;
      next.clear();
      for (const [key, fields] of model) next.set(key, fields);
    } else continue;
    if (isStep) before.push(model);
    model = next;
    assert.deepEqual(plain(modelOf(session.kit)), plain(model));
    await session.kept();
    if (random() < 0.7) void session.flush();
    if (random() < 0.3) await session.flush();
    if (n % BETWEEN.server === 0) {
      kills.server++;
      await application.kill();
      application = await startApplication(database.url, port);
    }
    if (n % BETWEEN.database === 0) {
      kills.database++;
      process.kill(database.processOf(), 'SIGKILL');
    }
    if (n % BETWEEN.page === 0) {
      kills.page++;
      page.kill();
      page = await opened(id);
      // The steps of undo went with the page.
      before.length = 0;
      assert.deepEqual(plain(modelOf(page.session.kit)), plain(model), `after save ${n}, ${saying(page)}`);
    }
  }
  proxy.fault = () => null;
  for (let i = 0; page.session.store.getState().save !== 'saved'; i++) {
    assert.ok(i < 600, `it never says “saved”, but ${JSON.stringify(page.session.store.getState().saveMessage)}`);
    await page.session.flush();
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  page.kill();
  const kit = await documentOf(id);
  assert.deepEqual(plain(modelOf(kit)), plain(model));
  assert.deepEqual(kit, page.session.kit);
  for (const [what, count] of Object.entries({ ...proxy.counts, ...kills })) assert.ok(count > 0, `no ${what}`);
  process.stdout.write(`${SAVES} saves: ${JSON.stringify(proxy.counts)}, killed ${JSON.stringify(kills)}\n`);
}

/** What a page says of its saving, for whoever has to find out. */
function saying({ session, notices }: Page): string {
  const { save, saveMessage, revision, clashes } = session.store.getState();
  return `${JSON.stringify({ save, saveMessage, revision, clashes, notices })}\n${trail.join('\n')}\n`;
}

/** Opens the page as a person does who tries until it opens. */
async function opened(id: string): Promise<Page> {
  for (let i = 0; ; i++) {
    try {
      return await openPage(proxy.url, id);
    } catch (error) {
      if (i === 200) throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}

try {
  await storm();
} catch (error) {
  process.exitCode = 1;
  process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`);
} finally {
  await (proxy as FaultProxy | undefined)?.close();
  await (application as Running | undefined)?.stop();
  await database.stop();
}
process.exit();
