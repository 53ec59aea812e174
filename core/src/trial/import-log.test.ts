import { MemoryBlobs, newPart, type Kit } from '../document';
import { packKit, readPackage } from '../ship';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { importLog } from './import-log';

const rulebook = SHIPPED.emberfold;

/** What the stand-in says it drops of a body's package. */
async function dropped(change: (kit: Kit) => void): Promise<string[]> {
  const { kit, blobs } = SOUND.emberfold();
  change(kit);
  const { bytes } = await packKit(kit, rulebook, blobs, []);
  const log = importLog(await readPackage(bytes, new MemoryBlobs()), rulebook);
  return log.filter(({ text }) => text.includes('beside the root')).map(({ text }) => text);
}

test('a mesh that joints hold may hang anywhere: a file has it at the top, and it is not dropped for that', async () => {
  const skinned = (kit: Kit) => Object.values(kit.parts).filter(({ skin }) => skin !== null);
  expect(await dropped(() => undefined)).toEqual([]);
  for (const parent of ['ground', 'hips', null]) {
    expect(
      await dropped((kit) => {
        for (const part of skinned(kit)) part.parent = parent;
      }),
    ).toEqual([]);
  }
});

test('a part that stands beside the root is told by its name', async () => {
  expect(await dropped((kit) => void (kit.parts.lamp = newPart({ id: 'lamp', name: 'lamp', order: 99 })))).toEqual([
    '“lamp” hangs beside the root and is dropped',
  ]);
});
