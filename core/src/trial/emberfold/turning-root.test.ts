import { MemoryBlobs } from '../../document';
import { packKit, readPackage } from '../../ship';
import { SHIPPED, SOUND } from '../../tests/sound-kits';
import { turningRoot } from './turning-root';

test('a package’s body is turned by what its joints hang on, whichever comes first in the file', async () => {
  const { kit, blobs } = SOUND.emberfold();
  const [held] = Object.values(kit.parts).filter(({ skin }) => skin !== null);
  for (const order of [-1, 99]) {
    held.parent = null;
    held.order = order;
    const { kit: read } = await readPackage((await packKit(kit, SHIPPED.emberfold, blobs, [])).bytes, new MemoryBlobs());
    expect(read.parts[turningRoot(read)!].name).not.toBe(held.name);
  }
  for (const part of Object.values(kit.parts)) if (part.skin === null) delete kit.parts[part.id];
  expect(turningRoot(kit)).toBeNull();
});
