import { unzipSync } from 'fflate';
import { bundleFile, gatherDrop, TooLargeDropError, type DroppedFile } from './gather-files';

const file = (path: string, text = 'x'): DroppedFile => Object.assign(new File([text], path.slice(path.lastIndexOf('/') + 1)), { path });
const names = (paths: string[]) => gatherDrop(paths.map((path) => file(path))).map((bundle) => [bundle.name, bundle.files.length]);

test('a folder is one thing, hidden files are none of it', () => {
  expect(names(['/crane/crane.obj', '/crane/tex/planks.png', '/crane/.DS_Store', '/boat/boat.glb'])).toEqual([
    ['crane.zip', 2],
    ['boat.zip', 1],
  ]);
});

test('loose files: one model with what lies beside it, a numbered set, or each alone', () => {
  expect(names(['./crane.gltf', './crane.bin', './planks.png'])).toEqual([['crane.gltf', 3]]);
  expect(names(['furl01.obj', 'furl02.obj', 'sail.obj', 'sail.mtl'])).toEqual([['furl.zip', 4]]);
  expect(names(['a.glb', 'b.glb'])).toEqual([
    ['a.glb', 1],
    ['b.glb', 1],
  ]);
  expect(names(['crane1.obj', 'boat2.obj'])).toHaveLength(2);
  expect(names(['a.zip', 'planks.png'])).toHaveLength(2);
});

test('several files go as a ZIP with their paths, one as it is, too large ones not at all', async () => {
  const [bundle] = gatherDrop([file('/crane/crane.obj', 'v 0 0 0'), file('/crane/tex/planks.png')]);
  const packed = await bundleFile(bundle);
  expect(packed.name).toBe('crane.zip');
  expect(Object.keys(unzipSync(new Uint8Array(await packed.arrayBuffer()))).sort()).toEqual(['crane/crane.obj', 'crane/tex/planks.png']);
  const alone = file('crane.glb');
  expect(await bundleFile({ name: 'crane.glb', files: [alone] })).toBe(alone);
  const huge = Object.defineProperty(file('crane.glb'), 'size', { value: 2 ** 29 }) as DroppedFile;
  await expect(bundleFile({ name: 'crane.glb', files: [huge] })).rejects.toThrow(TooLargeDropError);
});
