import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildSluiceCraneGlb } from '@itchkit/demo';
import { checkKit } from '@itchkit/core/document';
import type { readInWorker } from './reading';

/** A module of its own for each way to die: the worker's path is read when one is started. */
async function readerOf(code: string | null): Promise<{ readInWorker: typeof readInWorker }> {
  jest.resetModules();
  process.env.ITCHKIT_READ_WORKER = code === null ? REAL : fake(code);
  return import('./reading');
}

const REAL = process.env.ITCHKIT_READ_WORKER!;
const folder = mkdtempSync(join(tmpdir(), 'reading-'));
let made = 0;

function fake(code: string): string {
  const path = join(folder, `worker-${made++}.mjs`);
  writeFileSync(path, `process.on('message', () => { ${code} });\n`);
  return path;
}

afterAll(() => rmSync(folder, { recursive: true }));

const BYTES = new TextEncoder().encode('Dear harbour master,');
const limits = { memoryBytes: 2 ** 31, milliseconds: 20_000 };
const fate = (reading: Promise<unknown>) =>
  reading.then(
    () => 'read',
    (error: { code: string; message: string }) => `${error.code}: ${error.message}`,
  );

test('one reader reads file after file, refuses in between, and keeps what the caller has', async () => {
  const { readInWorker } = await readerOf(null);
  const bytes = await buildSluiceCraneGlb(8);
  const [first, refused, again] = await Promise.all([
    readInWorker({ bytes: bytes, fileName: 'crane.glb', sha: null }, null),
    fate(readInWorker({ bytes: BYTES, fileName: 'letter.glb', sha: null }, null)),
    readInWorker({ bytes: bytes, fileName: 'crane.glb', sha: null }, null),
  ]);
  expect(checkKit(first.kit).source!.counts).toEqual(again.kit.source!.counts);
  expect(refused).toMatch(/^not-known: “letter\.glb”/);
  expect(bytes.length).toBeGreaterThan(1000);
});

test.each<[string, string, Partial<typeof limits>, RegExp]>([
  ['throws', "throw new Error('broken')", {}, /^reader-died: “a\.glb”/],
  ['ends itself', 'process.exit(3)', {}, /^reader-died/],
  ['never ends', 'for (;;);', { milliseconds: 300 }, /^too-slow: .*0 s/],
  [
    'fills the heap',
    'const all = []; for (;;) all.push(new Array(1e5).fill(Math.random()))',
    { memoryBytes: 64 * 2 ** 20 },
    /^too-large: .*memory/,
  ],
  [
    'fills what is beside the heap',
    'const all = []; for (;;) { all.push(new Uint8Array(2 ** 24).fill(1)); Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5); }',
    { memoryBytes: 256 * 2 ** 20 },
    /^too-large: .*memory/,
  ],
])('a reader that %s refuses its own file only', async (_, code, own, expected) => {
  const { readInWorker } = await readerOf(code);
  expect(await fate(readInWorker({ bytes: BYTES, fileName: 'a.glb', sha: null }, null, { ...limits, ...own }))).toMatch(expected);
  process.env.ITCHKIT_READ_WORKER = REAL;
  expect(await fate(readInWorker({ bytes: BYTES, fileName: 'b.glb', sha: null }, null, limits))).toMatch(/^not-known/);
});

test('what is asked for at once, before anybody looks, is fenced by the kernel', async () => {
  // 3 GiB written in one go where 256 MiB are allowed: the reader is told so itself, and never has them.
  const { readInWorker } = await readerOf(
    "try { new Uint8Array(3 * 2 ** 30).fill(1); process.exit(4); } catch (error) { process.send({ ok: false, code: 'fenced', message: error.message, where: null }); }",
  );
  expect(await fate(readInWorker({ bytes: BYTES, fileName: 'a.glb', sha: null }, null, { ...limits, memoryBytes: 256 * 2 ** 20 }))).toMatch(
    process.platform === 'linux' ? /^fenced: .*allocation failed/ : /^too-large|^reader-died/,
  );
  process.env.ITCHKIT_READ_WORKER = REAL;
});

test('the ceiling counts the reader alone, whatever else the server has', async () => {
  const { readInWorker } = await readerOf(null);
  const ours: Uint8Array[] = [];
  // Three times the ceiling, and no more: a slow machine has other things to hold.
  const grow = setInterval(() => ours.length < 18 && ours.push(new Uint8Array(2 ** 25).fill(1)), 5);
  const read = await readInWorker({ bytes: await buildSluiceCraneGlb(40), fileName: 'crane.glb', sha: null }, null, {
    ...limits,
    memoryBytes: 192 * 2 ** 20,
    milliseconds: 90_000,
  }).finally(() => clearInterval(grow));
  expect(Object.keys(read.kit.parts).length).toBe(39);
});
