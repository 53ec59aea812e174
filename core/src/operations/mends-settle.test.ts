import fc from 'fast-check';
import { checkKit, KitError, MemoryBlobs, type Kit } from '../document';
import { readFile } from '../intake';
import { CheckRunner, type Rulebook } from '../rulebook';
import { loadSimplifier } from '../shape';
import { writeGlb } from '../ship';
import { made } from '../tests/calls';
import { sailFrame, tailCollada, tailGlb, WALKER_BVH } from '../tests/fixtures';
import { oddKit } from '../tests/odd-kits';
import { SHIPPED } from '../tests/sound-kits';
import { runCall } from './registry';

beforeAll(loadSimplifier);

const BOOKS = Object.values(SHIPPED);

/** Makes safe mends one after another, as “Mend all safe” does, and says which of them did not settle what they were for. */
function mendThrough(kit: Kit, rulebook: Rulebook, blobs: MemoryBlobs): { unsettled: string[]; again: string[]; left: string[]; kit: Kit } {
  const runner = new CheckRunner(rulebook, blobs);
  const [unsettled, again, refused] = [new Array<string>(), new Array<string>(), new Set<string>()];
  const done = new Map<string, number>();
  let now = kit;
  for (let round = 0; round < 300; round++) {
    const next = runner.run(now).find(({ id, mend }) => mend?.safe && !refused.has(id));
    if (!next?.mend) break;
    done.set(next.id, (done.get(next.id) ?? 0) + 1);
    if (done.get(next.id)! > 1) {
      again.push(next.id);
      refused.add(next.id);
      continue;
    }
    try {
      now = checkKit(runCall(now, next.mend.call, blobs).kit);
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
      refused.add(next.id);
      continue;
    }
    if (runner.run(now).some(({ id, message }) => id === next.id && message === next.message))
      unsettled.push(`${next.id}: ${next.message}`);
  }
  const left = runner.run(now).filter(({ id, mend }) => mend?.safe && !refused.has(id));
  return { unsettled, again, left: left.map(({ id }) => id), kit: now };
}

const SETTLED = { unsettled: [], again: [], left: [] };

const FILES: [string, () => Uint8Array | Promise<Uint8Array>][] = [
  ['tail.glb', tailGlb],
  ['tail.dae', () => new TextEncoder().encode(tailCollada())],
  ['walker.bvh', () => new TextEncoder().encode(WALKER_BVH)],
  ['sail.obj', () => new TextEncoder().encode(sailFrame(1))],
];

/** Safe mends of a kit that was mended, written as GLB and read again: those of the file alone, without what a file has no place for. */
async function leftInFile(kit: Kit, rulebook: Rulebook, blobs: MemoryBlobs): Promise<string[]> {
  const mended = mendThrough(kit, rulebook, blobs).kit;
  // An empty scene is refused at the door.
  if (Object.keys(mended.parts).length === 0) return [];
  const before = new Set(new CheckRunner(rulebook, blobs).run(mended).map(({ rule }) => rule));
  const store = new MemoryBlobs();
  const again = await readFile((await writeGlb(mended, blobs, { extras: true })).bytes, 'mended.glb', store);
  // How it stands on tiles is the kit’s own: a model says nothing of it.
  const found = new CheckRunner(rulebook, store).run(mended.grounds ? { ...again, grounds: mended.grounds } : again);
  // What could not be mended before can't be mended now either.
  return found.filter(({ rule, mend }) => mend?.safe && !before.has(rule)).map(({ id, message }) => `${id}: ${message}`);
}

describe.each(BOOKS.map((rulebook) => [rulebook.id, rulebook] as const))('for %s', (_, rulebook) => {
  test.each(FILES)('safe mends of %s come to an end, each with its finding settled', async (fileName, make) => {
    const blobs = new MemoryBlobs();
    const kit = await readFile(await make(), fileName, blobs);
    expect(mendThrough(kit, rulebook, blobs)).toMatchObject(SETTLED);
  });

  test.each(FILES)('what %s is mended to stays mended in a file', async (fileName, make) => {
    const blobs = new MemoryBlobs();
    expect(await leftInFile(await readFile(await make(), fileName, blobs), rulebook, blobs)).toEqual([]);
  });

  test('and what a stranger’s kit is mended to, too', async () => {
    await fc.assert(
      fc.asyncProperty(oddKit, async ({ kit, blobs }) => {
        expect(await leftInFile({ ...kit, bindings: {} }, rulebook, blobs)).toEqual([]);
      }),
      { numRuns: 10 },
    );
  });

  test('so do those of a kit that has something of everything', () => {
    const { kit, blobs } = made();
    expect(mendThrough(kit, rulebook, blobs)).toMatchObject(SETTLED);
  });

  test('and those of any kit that a stranger made', () => {
    fc.assert(
      fc.property(oddKit, ({ kit, blobs }) => {
        expect(mendThrough(checkKit(kit), rulebook, blobs)).toMatchObject(SETTLED);
      }),
      { numRuns: 30 },
    );
  });
});
