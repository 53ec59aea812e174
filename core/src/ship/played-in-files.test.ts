import { callOf, type Kit, type MemoryBlobs } from '../document';
import { setKeys } from '../motion';
import { randomKit } from '../oracles/random-kits';
import { run } from '../tests/helpers';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { packKit } from './pack-kit';
import { playedInFiles } from './played-in-files';
import { packageFiles, type PackageFile } from './package-files';
import { writeGlb } from './write-glb';

const modelOf = async (kit: Kit, blobs: MemoryBlobs): Promise<PackageFile> => ({
  path: 'model.glb',
  holds: 'model',
  bytes: (await writeGlb(kit, blobs)).bytes,
});

test.each([1, 2, 3, 4, 5, 6])('read back, every vertex is within a millimetre (%i)', async (seed) => {
  const { kit, blobs } = randomKit(seed);
  const [{ clip, length, path }] = await playedInFiles(kit, [await modelOf(kit, blobs)], blobs);
  expect([clip, path]).toEqual(['clip', 'model.glb']);
  expect(length).toBeLessThan(0.001);
});

test('a file that plays something else is told by how much, and at which part', async () => {
  const { kit, blobs } = randomKit(3, { skins: false, kinds: ['keys'], easings: ['straight'], shown: false });
  const file = await modelOf(kit, blobs);
  const [part] = Object.values(kit.parts).filter(({ parent, mesh }) => parent === null && mesh !== null);
  const values = [0, 1, 2].map((axis) => ({ part: part.id, property: 'offset' as const, axis: axis as 0, value: axis === 1 ? 7 : 0 }));
  const moved = run(kit, blobs, callOf(setKeys, { clip: 'clip', time: kit.clips.clip.lengthSeconds / 2, easing: 'straight', values }));
  const [{ length, part: worst }] = await playedInFiles(moved, [file], blobs);
  expect(length).toBeGreaterThan(1);
  expect(moved.parts[worst!]).toBeDefined();
});

test('a clip’s own file, which has no meshes, is measured on the kit’s own vertices', async () => {
  const { kit, blobs } = randomKit(11, { skins: true, properties: ['offset', 'turn'] });
  const rulebook = { ...SHIPPED.plotwick, packaging: [{ path: '{clip}.glb', holds: 'clip' as const }] };
  const files = await packageFiles(kit, rulebook, blobs, {}, kit);
  const [{ length, path }] = await playedInFiles(kit, files, blobs);
  expect(path).toBe('clip.glb');
  expect(length).toBeLessThan(0.001);
  expect(length).toBeGreaterThan(0);
});

test('what holds no motion is not looked at', async () => {
  const { kit, blobs } = randomKit(4);
  const { bytes } = await modelOf(kit, blobs);
  expect(await playedInFiles(kit, [{ path: 'rest.glb', holds: 'model-at-rest', bytes }], blobs)).toEqual([]);
});

test.each(Object.keys(SOUND))(
  'a package for %s says of each of its clips how near it is, within a millimetre, in millimetres of the world',
  async (id) => {
    const { kit, blobs } = SOUND[id]();
    const { played, manifest } = await packKit(kit, SHIPPED[id], blobs, []);
    const holdsClips = manifest.files.some(({ holds }) => holds === 'model' || holds === 'clip');
    expect(played.length).toBe(holdsClips ? Object.keys(kit.clips).length : 0);
    for (const { millimetres } of played) expect(millimetres).toBeLessThan(1);
  },
);
