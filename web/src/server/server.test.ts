import type { Pool } from 'pg';
import { buildSluiceCraneGlb, sluiceCraneFinished } from '@itchkit/demo';
import { blobsOf, callOf, hashBytes, type Kit, MemoryBlobs } from '@itchkit/core/document';
import { renameParts } from '@itchkit/core/shape';
import { runCall } from '@itchkit/core/operations';
import { GET as getHealth } from '../app/api/health/route';
import { GET as listKits, POST as takeIn } from '../app/api/kits/route';
import { DELETE as removeKit, GET as getKit, PATCH as patchKit } from '../app/api/kits/[kit]/route';
import { POST as duplicate } from '../app/api/kits/[kit]/duplicate/route';
import { POST as restore } from '../app/api/kits/[kit]/restore/route';
import { GET as listPackages, POST as build } from '../app/api/kits/[kit]/packages/route';
import { POST as readBlobs, PUT as writeBlobs } from '../app/api/blobs/route';
import { GET as download } from '../app/api/packages/[id]/route';
import { packFrames, unpackFrames } from '../blob-message';
import { allRulebooks } from '../rulebooks';
import { database } from './database';
import { migrateDatabase, seedKit } from './prepare';

const HOST = '127.0.0.1:3210';
type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

function call(
  handler: Handler,
  method: string,
  params: Record<string, string> = {},
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Response> {
  const payload = body === undefined || body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body);
  return handler(new Request(`http://${HOST}/api`, { method, body: payload, headers: { host: HOST, ...headers } }), {
    params: Promise.resolve(params),
  });
}

const answer = async <T>(response: Promise<Response>): Promise<T> => (await response).json() as Promise<T>;

async function newKit(): Promise<{ id: string; revision: number; document: Kit }> {
  const { id } = await answer<{ id: string }>(
    call(takeIn, 'POST', {}, await buildSluiceCraneGlb(8), { 'x-file-name': 'sluice%20crane.glb' }),
  );
  return answer(call(getKit, 'GET', { kit: id }));
}

beforeAll(() => migrateDatabase(database()));
afterAll(() => database().$client.end());

test('migrating twice is migrating once, and the database answers', async () => {
  await migrateDatabase(database());
  expect(await answer(call(getHealth, 'GET'))).toEqual({ ok: true });
});

test('a file becomes a kit with all its blobs', async () => {
  const { document, revision } = await newKit();
  expect([document.name, revision, Object.keys(document.parts).length]).toEqual(['sluice crane', 1, 31]);
  const response = await call(readBlobs, 'POST', {}, { shas: [...blobsOf(document)] });
  const frames = unpackFrames(new Uint8Array(await response.arrayBuffer()));
  expect(frames.map(([sha, bytes]) => hashBytes(bytes) === sha)).not.toContain(false);
  expect(frames).toHaveLength(blobsOf(document).size);
});

test.each<[string, Uint8Array, number, string]>([
  ['a text file', new TextEncoder().encode('Dear harbour master,'), 415, 'not-known'],
  ['a cut file', new Uint8Array([0x67, 0x6c, 0x54, 0x46, 2, 0, 0, 0, 255, 0, 0, 0, 0, 0, 0, 0, 74, 83, 79, 78]), 422, 'truncated'],
])('%s is refused as problem details, and nothing is kept', async (_, bytes, status, code) => {
  const before = await answer<unknown[]>(call(listKits, 'GET'));
  const response = await call(takeIn, 'POST', {}, bytes, { 'x-file-name': 'wheel.glb' });
  expect(response.status).toBe(status);
  expect(response.headers.get('content-type')).toBe('application/problem+json');
  expect(await response.json()).toMatchObject({ status, code, type: `urn:itchkit:${code}`, detail: expect.stringContaining('wheel.glb') });
  expect(await answer<unknown[]>(call(listKits, 'GET'))).toHaveLength(before.length);
});

test('a 300 MB body is refused in a sentence, and the server goes on', async () => {
  const chunk = new Uint8Array(4 << 20);
  let sent = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      if (sent >= 300) controller.close();
      else controller.enqueue(chunk);
      sent += 4;
    },
  });
  const request = new Request(`http://${HOST}/api/kits`, {
    method: 'POST',
    body,
    headers: { host: HOST, 'x-file-name': 'dock.glb' },
    duplex: 'half',
  } as RequestInit);
  const response = await takeIn(request, { params: Promise.resolve({}) });
  expect(response.status).toBe(413);
  expect(((await response.json()) as { detail: string }).detail).toMatch(/“dock\.glb” is larger than 256 MiB/);
  expect((await call(listKits, 'GET')).status).toBe(200);
});

test('a change is saved on its base, a stale one is answered with the newer kit and nothing is overwritten', async () => {
  const { id, document } = await newKit();
  const part = Object.keys(document.parts)[0];
  const mine = runCall(document, callOf(renameParts, { names: { [part]: 'mine' } }), new MemoryBlobs());
  const theirs = runCall(document, callOf(renameParts, { names: { [part]: 'theirs' } }), new MemoryBlobs());
  expect(await answer(call(patchKit, 'PATCH', { kit: id }, { base: 1, cause: 'a', patches: theirs.patches }))).toEqual({ revision: 2 });
  const late = await call(patchKit, 'PATCH', { kit: id }, { base: 1, cause: 'b', patches: mine.patches });
  expect(late.status).toBe(409);
  const problem = (await late.json()) as { revision: number; document: Kit };
  expect([problem.revision, problem.document.parts[part].name]).toEqual([2, 'theirs']);
  expect((await answer<{ document: Kit }>(call(getKit, 'GET', { kit: id }))).document.parts[part].name).toBe('theirs');
});

test('of many changes at once on one base exactly one is taken', async () => {
  const { id } = await newKit();
  const answers = await Promise.all(
    Array.from({ length: 8 }, (_, i) =>
      call(patchKit, 'PATCH', { kit: id }, { base: 1, cause: 'x', patches: [{ op: 'replace', path: ['name'], value: `kit ${i}` }] }),
    ),
  );
  expect(answers.map((one) => one.status).sort()).toEqual([200, 409, 409, 409, 409, 409, 409, 409]);
});

test('a change that would break the kit, or needs data that was not sent, is refused', async () => {
  const { id, document } = await newKit();
  const [part] = Object.values(document.parts);
  const broken = await call(
    patchKit,
    'PATCH',
    { kit: id },
    { base: 1, cause: 'x', patches: [{ op: 'replace', path: ['parts', part.id, 'mesh'], value: 'nowhere' }] },
  );
  expect([broken.status, ((await broken.json()) as { code: string }).code]).toEqual([422, 'kit-schema']);
  const evil = await call(
    patchKit,
    'PATCH',
    { kit: id },
    { base: 1, cause: 'x', patches: [{ op: 'add', path: ['__proto__', 'polluted'], value: true }] },
  );
  expect(evil.status).toBe(422);
  const sha = 'a'.repeat(64);
  const mesh = Object.values(document.meshes)[0];
  const unsent = await call(
    patchKit,
    'PATCH',
    { kit: id },
    { base: 1, cause: 'x', patches: [{ op: 'replace', path: ['meshes', mesh.id, 'primitives', 0, 'indices', 'blob'], value: sha }] },
  );
  expect(await unsent.json()).toMatchObject({ code: 'blobs-missing', missing: [sha] });
  expect((await answer<{ revision: number }>(call(getKit, 'GET', { kit: id }))).revision).toBe(1);
});

test('a blob whose contents are not those of its name is refused', async () => {
  const response = await call(writeBlobs, 'PUT', {}, packFrames([['b'.repeat(64), new Uint8Array([1, 2, 3])]]));
  expect(((await response.json()) as { code: string }).code).toBe('blob-mismatch');
});

test('taken off the shelf and put back, copied under another name', async () => {
  const { id } = await newKit();
  await call(removeKit, 'DELETE', { kit: id });
  expect((await call(getKit, 'GET', { kit: id })).status).toBe(404);
  await call(restore, 'POST', { kit: id });
  expect((await call(getKit, 'GET', { kit: id })).status).toBe(200);
  const copy = await answer<{ id: string }>(call(duplicate, 'POST', { kit: id }));
  expect((await answer<{ document: Kit }>(call(getKit, 'GET', { kit: copy.id }))).document.name).toBe('sluice crane, copy');
});

test('no package while a stop is open; the finished crane’s package is built, listed and downloaded with its hash', async () => {
  const { id } = await newKit();
  const stopped = await call(build, 'POST', { kit: id });
  expect([stopped.status, ((await stopped.json()) as { code: string }).code]).toEqual([409, 'stops-open']);
  const brinework = allRulebooks().find(({ id: one }) => one === 'brinework')!;
  await seedKit(database(), brinework, (blobs) => sluiceCraneFinished(brinework, blobs));
  const finished = (await answer<{ id: string; name: string }[]>(call(listKits, 'GET'))).find(
    (kit) => kit.name === 'Sluice crane, finished',
  )!;
  const row = await answer<{ id: string; sha: string }>(call(build, 'POST', { kit: finished.id }));
  const again = await answer<{ sha: string }>(call(build, 'POST', { kit: finished.id }));
  expect(again.sha).toBe(row.sha);
  expect(await answer<unknown[]>(call(listPackages, 'GET', { kit: finished.id }))).toHaveLength(2);
  const file = new Uint8Array(await (await call(download, 'GET', { id: row.id })).arrayBuffer());
  expect(hashBytes(file)).toBe(row.sha);
});

test('a foreign page or a foreign name is not served', async () => {
  const foreign = await call(takeIn, 'POST', {}, new Uint8Array(4), { origin: 'http://elsewhere.invalid' });
  expect([foreign.status, ((await foreign.json()) as { code: string }).code]).toEqual([403, 'origin']);
  const rebound = await call(listKits, 'GET', {}, undefined, { host: 'elsewhere.invalid' });
  expect(rebound.status).toBe(403);
});

test('a database that is gone is a sentence too', async () => {
  const held = globalThis as unknown as { itchKitDatabase?: unknown };
  const before = held.itchKitDatabase;
  const { openDatabase } = await import('./database');
  held.itchKitDatabase = openDatabase('postgresql://nobody@127.0.0.1:1/none');
  const response = await call(listKits, 'GET');
  expect(response.status).toBe(500);
  expect(((await response.json()) as { detail: string }).detail).toMatch(/database does not answer/);
  await (held.itchKitDatabase as { $client: Pool }).$client.end();
  held.itchKitDatabase = before;
});
