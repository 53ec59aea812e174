import { strToU8, zipSync } from 'fflate';
import { equipNode } from '../../node';
import { checkKit, MemoryBlobs } from '../document';
import { sailFrame, tailCollada, tailGlb, WALKER_BVH } from '../tests/fixtures';
import { HOSTILE_CORPUS, PLY, withTriangle } from '../tests/hostile-corpus';
import { IntakeError } from './intake-error';
import { readFile } from './read-file';

beforeAll(() => equipNode());

/** What becomes of a file: the notes' codes, or the refusal's code. Anything but a reading or a refusal in a sentence fails. */
async function fate(bytes: Uint8Array, name: string): Promise<string> {
  try {
    const kit = checkKit(await readFile(bytes, name, new MemoryBlobs()));
    return `read: ${[...new Set(kit.source!.notes.map((note) => note.code))].sort().join(' ')}`;
  } catch (error) {
    if (!(error instanceof IntakeError)) throw error;
    expect(error.message).toMatch(/\.$/);
    expect(error.message).not.toMatch(/undefined|\[object|at .*\.ts/);
    expect(error.message.length).toBeLessThan(700);
    return error.code;
  }
}

test.each(HOSTILE_CORPUS)(
  '%s',
  async (_, expected, name, make) => {
    const result = await fate(await make(), name);
    if (typeof expected === 'string') expect(result).toBe(expected);
    else expect(result).toMatch(expected);
  },
  10_000,
);

/** Mulberry32 (T. Ettinger, public domain): the same mutations in every run. */
function random(seed: number): () => number {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const LITERALS = ['-1', '0', '1e308', '4294967295', 'null', '""', '[]', '{}', 'nan', '999999999', '#', '<', '"'];

function mutate(bytes: Uint8Array, next: () => number): Uint8Array {
  const out = bytes.slice();
  const at = () => Math.floor(next() * out.length);
  const kind = next();
  if (kind < 0.15) return out.slice(0, at());
  if (kind < 0.3) {
    const [a, b] = [at(), at()].sort((x, y) => x - y);
    return Uint8Array.from([...out.subarray(0, a), ...out.subarray(b)]);
  }
  if (kind < 0.55) {
    const word = strToU8(LITERALS[Math.floor(next() * LITERALS.length)]);
    const where = at();
    return Uint8Array.from([...out.subarray(0, where), ...word, ...out.subarray(where + word.length)]);
  }
  for (let n = 1 + Math.floor(next() * 6); n > 0; n--) out[at()] ^= 1 << Math.floor(next() * 8);
  return out;
}

test('5,000 mutations end in a reading or a refusal, in little memory', async () => {
  const seeds: [string, Uint8Array][] = [
    ['tail.glb', await tailGlb()],
    ['tri.gltf', withTriangle({})],
    ['tail.dae', strToU8(tailCollada())],
    ['walker.bvh', strToU8(WALKER_BVH)],
    ['sail.obj', strToU8(sailFrame(1))],
    ['a.ply', strToU8(PLY)],
    ['a.zip', zipSync({ 'a1.obj': strToU8(sailFrame(0)), 'a2.obj': strToU8(sailFrame(1)) })],
    [
      'b.zip',
      zipSync({ 'a.gltf': withTriangle({ buffers: [{ byteLength: 36, uri: 'a.bin' }] }), 'a.bin': new Uint8Array(36) }, { level: 0 }),
    ],
  ];
  const next = random(20261125);
  const failures: string[] = [];
  let readings = 0;
  let slowest = 0;
  for (let i = 0; i < 5000; i++) {
    const [name, bytes] = seeds[i % seeds.length];
    const mutant = mutate(bytes, next);
    const start = performance.now();
    const result = await fate(mutant, name).catch(
      (error: unknown) => `Mutation ${i} of ${name}: ${error instanceof Error ? error.stack : String(error)}`,
    );
    if (result.startsWith('Mutation')) failures.push(result);
    slowest = Math.max(slowest, performance.now() - start);
    if (result.startsWith('read')) readings++;
  }
  expect(failures).toEqual([]);
  expect(readings).toBeGreaterThan(500);
  expect(readings).toBeLessThan(4500);
  expect(slowest).toBeLessThan(10_000);
  expect(process.memoryUsage().rss).toBeLessThan(2 ** 31);
}, 180_000);
