import { decode, encode } from 'fast-png';
import { nanoid } from 'nanoid';
import type { Pool } from 'pg';
import { buildSluiceCraneGlb, sluiceCrane, sluiceCraneFinished } from '@itchkit/demo';
import { blobsOf, callOf, fieldChanges, hashBytes, putArray, type FieldChange, type Kit, MemoryBlobs } from '@itchkit/core/document';
import { renameParts } from '@itchkit/core/shape';
import { runCall } from '@itchkit/core/operations';
import { GET as getHealth } from '../app/api/health/route';
import { GET as listKits, POST as takeIn } from '../app/api/kits/route';
import { DELETE as removeKit, GET as getKit, PATCH as patchKit } from '../app/api/kits/[kit]/route';
import { POST as duplicate } from '../app/api/kits/[kit]/duplicate/route';
import { POST as restore } from '../app/api/kits/[kit]/restore/route';
import { PUT as setSummary } from '../app/api/kits/[kit]/summary/route';
import { GET as listRevisions } from '../app/api/kits/[kit]/revisions/route';
import { GET as getThumbnail, PUT as putThumbnail } from '../app/api/kits/[kit]/thumbnail/route';
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

let crane: Promise<Uint8Array> | null = null;

async function newKit(): Promise<{ id: string; revision: number; document: Kit }> {
  const { id } = await answer<{ id: string }>(
    call(takeIn, 'POST', {}, await (crane ??= buildSluiceCraneGlb(8)), { 'x-file-name': 'sluice%20crane.glb' }),
  );
  return answer(call(getKit, 'GET', { kit: id }));
}

/** A save as a page sends it. */
const save = (kit: string, changes: FieldChange[], fields: object = {}) =>
  call(patchKit, 'PATCH', { kit }, { base: 1, key: nanoid(), cause: 'x', changes, ...fields });

beforeAll(() => migrateDatabase(database()));
afterAll(() => database().$client.end());

test('migrating twice is migrating once, and the database answers', async () => {
  await migrateDatabase(database());
  expect(await answer(call(getHealth, 'GET'))).toEqual({ ok: true });
});

test('a file becomes a kit with all its blobs', async () => {
  const { document, revision } = await newKit();
  expect([document.name, revision, Object.keys(document.parts).length]).toEqual(['sluice crane', 1, 39]);
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
  const named = (name: string) =>
    fieldChanges(document, runCall(document, callOf(renameParts, { names: { [part]: name } }), new MemoryBlobs()).kit);
  expect(await answer(save(id, named('theirs')))).toEqual({ revision: 2 });
  const late = await save(id, named('mine'));
  expect(late.status).toBe(409);
  const problem = (await late.json()) as { revision: number; document: Kit };
  expect([problem.revision, problem.document.parts[part].name]).toEqual([2, 'theirs']);
  expect((await answer<{ document: Kit }>(call(getKit, 'GET', { kit: id }))).document.parts[part].name).toBe('theirs');
});

test('of many changes at once on one base exactly one is taken', async () => {
  const { id, document } = await newKit();
  const answers = await Promise.all(
    Array.from({ length: 8 }, (_, i) => save(id, [{ path: ['name'], was: document.name, now: `kit ${i}` }])),
  );
  expect(answers.map((one) => one.status).sort()).toEqual([200, 409, 409, 409, 409, 409, 409, 409]);
});

test('a save is done once however often it is told, and answered as it was the first time, whatever came since', async () => {
  const { id, document } = await newKit();
  const key = nanoid();
  const turned = [{ path: ['name'], was: document.name, now: 'once' }];
  const told = await Promise.all(Array.from({ length: 6 }, () => save(id, turned, { key })));
  expect(await Promise.all(told.map((one) => one.json()))).toEqual(Array(6).fill({ revision: 2 }));
  expect(await answer(save(id, [{ path: ['name'], was: 'once', now: document.name }], { base: 2 }))).toEqual({ revision: 3 });
  expect(await answer(save(id, turned, { key }))).toEqual({ revision: 2 });
  const { revision, document: now } = await answer<{ revision: number; document: Kit }>(call(getKit, 'GET', { kit: id }));
  expect([revision, now.name]).toEqual([3, document.name]);
  // Another kit may use the same key.
  const other = await newKit();
  expect(await answer(save(other.id, turned, { key }))).toEqual({ revision: 2 });
});

test.each<[string, FieldChange[] | ((kit: Kit) => FieldChange[]), string]>([
  ['a part that shows a mesh of nowhere', ({ parts }) => mesh(Object.values(parts)[0], 'nowhere'), 'kit-schema'],
  ['a field that is not as it was', [{ path: ['name'], was: 'never', now: 'x' }], 'patch'],
  ['an object’s own insides', [{ path: ['__proto__', 'polluted'], now: true }], 'patch'],
  ['an object’s maker', [{ path: ['parts', 'constructor', 'prototype', 'polluted'], now: true }], 'patch'],
  ['the length of a vector', ({ parts }) => [{ path: ['parts', Object.keys(parts)[0], 'translation', 'length'], now: 4e9 }], 'patch'],
  ['a component beyond a vector’s end', ({ parts }) => [{ path: ['parts', Object.keys(parts)[0], 'translation', 1e6], now: 1 }], 'patch'],
  ['a text with a NUL', ({ name }) => [{ path: ['name'], was: name, now: 'cra\u0000ne' }], 'text'],
  ['a text with half a character', ({ name }) => [{ path: ['name'], was: name, now: 'cra\ud83dne' }], 'text'],
  ['a record that says it is another one', ({ parts }) => [{ path: ['parts', 'other'], now: Object.values(parts)[0] }], 'kit-schema'],
  [
    'a rotation that is none',
    ({ parts }) => [{ path: ['parts', Object.keys(parts)[0], 'rotation'], was: Object.values(parts)[0].rotation, now: [0, 0, 0, 2] }],
    'kit-schema',
  ],
  ['a path without an end', [{ path: Array.from({ length: 400 }, () => 'x'), now: 1 }], 'request'],
])('%s is refused, and nothing is changed', async (_, changes, code) => {
  const { id, document } = await newKit();
  const response = await save(id, typeof changes === 'function' ? changes(document) : changes);
  expect([response.status, ((await response.json()) as { code: string }).code]).toEqual([422, code]);
  expect(await answer(call(getKit, 'GET', { kit: id }))).toMatchObject({ revision: 1, document });
  expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
});

const mesh = (part: Kit['parts'][string], now: string): FieldChange[] => [{ path: ['parts', part.id, 'mesh'], was: part.mesh, now }];

describe('arrays of a change are held against the data blocks', () => {
  /** The first mesh with an array of it made another one, and what the server says. */
  async function other(change: (primitive: Kit['meshes'][string]['primitives'][number], blobs: MemoryBlobs) => void): Promise<unknown> {
    const { id, document } = await newKit();
    const [was] = Object.values(document.meshes);
    const now = structuredClone(was);
    const blobs = new MemoryBlobs();
    change(now.primitives[0], blobs);
    await call(writeBlobs, 'PUT', {}, packFrames([...blobs.entries()]));
    return answer(save(id, [{ path: ['meshes', was.id], was, now }]));
  }

  test('those that were not sent are asked for', async () => {
    const sha = 'a'.repeat(64);
    expect(await other(({ indices }) => (indices.blob = sha))).toMatchObject({ code: 'blobs-missing', missing: [sha] });
  });

  test('more rows than there are bytes', async () => {
    expect(await other(({ indices }) => (indices.count += 3))).toMatchObject({
      code: 'kit-schema',
      detail: expect.stringMatching(/take \d+ bytes/),
    });
  });

  test('corners that point at no vertex', async () => {
    const said = await other((primitive, blobs) => {
      primitive.indices = putArray(blobs, Uint32Array.from([0, 1, primitive.attributes.POSITION.count]), 1);
    });
    expect(said).toMatchObject({ code: 'kit-schema', detail: expect.stringMatching(/number 2 is \d+, and there are \d+ to point at/) });
  });

  test('places that are no floats', async () => {
    expect(await other(({ attributes }) => (attributes.POSITION.type = 'u32'))).toMatchObject({ code: 'kit-schema' });
    expect(await other(({ attributes }) => (attributes.POSITION.size = 4))).toMatchObject({ code: 'kit-schema' });
  });

  test('what fits is taken', async () => {
    const said = await other((primitive, blobs) => {
      primitive.indices = putArray(blobs, Uint32Array.from([0, 2, 1]), 1);
    });
    expect(said).toEqual({ revision: 2 });
  });
});

test.each([
  ['an unknown kit', 'nowhere', 404],
  ['an id that can be none', 'a\u0000b', 404],
  ['a very long id', 'x'.repeat(9000), 404],
])('%s has no summary, no picture, no revisions and no packages, and takes no change', async (_, kit, status) => {
  const counts = { stop: 0, warn: 0, note: 0 };
  const all = [
    call(getKit, 'GET', { kit }),
    save(kit, []),
    call(removeKit, 'DELETE', { kit }),
    call(restore, 'POST', { kit }),
    call(duplicate, 'POST', { kit }),
    call(setSummary, 'PUT', { kit }, { revision: 1, counts, owed: {} }),
    call(listRevisions, 'GET', { kit }),
    call(build, 'POST', { kit }),
  ];
  expect((await Promise.all(all)).map((one) => one.status)).toEqual(all.map(() => status));
});

test.each(['null', 'x', 'http://', 'http://127.0.0.1:1', 'file://'])('a change from a page of origin “%s” is refused', async (origin) => {
  expect((await call(takeIn, 'POST', {}, new Uint8Array(4), { origin })).status).toBe(403);
});

test('without an Origin the browser’s own word for where a request is from is asked', async () => {
  for (const [site, status] of [
    ['cross-site', 403],
    ['same-site', 403],
    ['same-origin', 415],
    ['none', 415],
  ] as const)
    expect((await call(takeIn, 'POST', {}, new Uint8Array(4), { 'sec-fetch-site': site })).status).toBe(status);
});

test('a name at its longest can be copied, and again', async () => {
  const { id, document } = await newKit();
  await save(id, [{ path: ['name'], was: document.name, now: '👨‍👩‍👧‍👦'.repeat(18) }]);
  for (let i = 0; i < 2; i++) expect((await call(duplicate, 'POST', { kit: id })).status).toBe(201);
});

test('a picture is stored as its pixels alone, and what is none is refused', async () => {
  const { id } = await newKit();
  const plain = encode({ width: 2, height: 2, channels: 3, depth: 8, data: new Uint8Array(12).fill(7) });
  const hidden = Uint8Array.from([...plain, ...new TextEncoder().encode('<script>')]);
  const put = (bytes: Uint8Array, revision = 1) =>
    putThumbnail(
      new Request(`http://${HOST}/api?revision=${revision}`, { method: 'PUT', body: bytes as BodyInit, headers: { host: HOST } }),
      {
        params: Promise.resolve({ kit: id }),
      },
    );
  expect((await put(hidden)).status).toBe(200);
  const stored = new Uint8Array(await (await call(getThumbnail, 'GET', { kit: id })).arrayBuffer());
  expect(new TextDecoder('latin1').decode(stored)).not.toContain('script');
  expect([...decode(stored).data].slice(0, 3)).toEqual([7, 7, 7]);
  expect((await put(new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0]))).status).toBe(422);
  expect((await put(plain, 3e9)).status).toBe(422);
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

test('what makes a kit is told its key: however often it is told, one after another or at once, there is one', async () => {
  const { id } = await newKit();
  const shelf = async () => (await answer<unknown[]>(call(listKits, 'GET'))).length;
  const before = await shelf();
  const twice = async (make: (key: string) => Promise<Response>) => {
    const key = nanoid();
    const told = await Promise.all([make(key), make(key)]);
    const ids = await Promise.all([...told, await make(key)].map(async (one) => [one.status, ((await one.json()) as { id: string }).id]));
    expect(ids).toEqual([201, 201, 201].map((status) => [status, key]));
  };
  await twice((key) => call(duplicate, 'POST', { kit: id }, undefined, { 'idempotency-key': key }));
  const bytes = await crane!;
  await twice((key) => call(takeIn, 'POST', {}, bytes, { 'x-file-name': 'crane.glb', 'idempotency-key': key }));
  expect(await shelf()).toBe(before + 2);
  const refused = await call(duplicate, 'POST', { kit: id }, undefined, { 'idempotency-key': 'no key!' });
  expect([refused.status, (await refused.json()) as object]).toEqual([422, expect.objectContaining({ where: 'idempotency-key' })]);
});

test('no package while a stop is open; the finished crane’s package is built, listed and downloaded with its hash', async () => {
  const refusedWith = async (kit: string) => {
    const stopped = await call(build, 'POST', { kit });
    return [stopped.status, ((await stopped.json()) as { code: string }).code];
  };
  expect(await refusedWith((await newKit()).id)).toEqual([409, 'no-target']);
  const brinework = allRulebooks().find(({ id: one }) => one === 'brinework')!;
  await seedKit(database(), brinework, (blobs) => sluiceCrane(brinework, blobs));
  await seedKit(database(), brinework, (blobs) => sluiceCraneFinished(brinework, blobs));
  const kits = await answer<{ id: string; name: string }[]>(call(listKits, 'GET'));
  const named = (name: string) => kits.find((kit) => kit.name === name)!;
  expect(await refusedWith(named('Sluice crane').id)).toEqual([409, 'stops-open']);
  const finished = named('Sluice crane, finished');
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
  expect(response.status).toBe(503);
  expect(((await response.json()) as { detail: string }).detail).toMatch(/database does not answer/);
  await (held.itchKitDatabase as { $client: Pool }).$client.end();
  held.itchKitDatabase = before;
});
