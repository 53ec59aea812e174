import { MemoryBlobs } from '../document';
import { readFile } from './read-file';

const MANY = 300_000;
const times = (text: (i: number) => string) => Array.from({ length: MANY }, (_, i) => text(i)).join('');
const gltf = () =>
  JSON.stringify({
    asset: { version: '2.0' },
    scenes: [{ nodes: [0] }],
    nodes: Array.from({ length: MANY }, (_, i) => ({ name: `n${i}` })),
  });
const collada = () =>
  `<?xml version="1.0"?><COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><library_visual_scenes><visual_scene id="s">${times(() => '<node id="a"/>')}</visual_scene></library_visual_scenes></COLLADA>`;
const bvh = () =>
  `HIERARCHY\nROOT r\n{\nOFFSET 0 0 0\nCHANNELS 0\n${times(() => 'JOINT a\n{\nOFFSET 0 0 0\nCHANNELS 0\nEnd Site\n{\nOFFSET 0 1 0\n}\n}\n')}}\nMOTION\nFrames: 1\nFrame Time: 0.1\n`;
const obj = () => times((i) => `o n${i}\nv 0 0 ${i}\nv 1 0 0\nv 0 1 0\nf -1 -2 -3\n`);
const stl = () =>
  times((i) => `solid n${i}\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid\n`);

test.each([
  ['many.gltf', gltf, /has 300,000 nodes; 20,000 can be taken in/],
  ['many.dae', collada, /has more than 20,000 nodes/],
  ['many.bvh', bvh, /has more than 2,000 joints/],
  ['many.obj', obj, /has more than 20,000 groups/],
  ['many.stl', stl, /has more than 20,000 solids/],
])('%s with hundreds of thousands of parts is refused before they are made', async (name, text, sentence) => {
  const blobs = new MemoryBlobs();
  await expect(readFile(new TextEncoder().encode(text()), name, blobs)).rejects.toThrow(sentence);
  expect([...blobs.entries()]).toEqual([]);
});

test('names with NULs and halves of characters, or cut in one, are kept as far as they can be, and that is noted', async () => {
  const family = '👨‍👩‍👧‍👦';
  const nodes = [{ name: 'ji\u0000b' }, { name: 'mast\ud83d' }, { name: `${'x'.repeat(198)}${family}` }];
  const file = JSON.stringify({ asset: { version: '2.0', generator: 'a\u0000b' }, scenes: [{ nodes: [0, 1, 2] }], nodes });
  const kit = await readFile(new TextEncoder().encode(file), 'quay.gltf', new MemoryBlobs());
  expect(Object.values(kit.parts).map(({ name }) => name)).toEqual(['jib', 'mast', 'x'.repeat(198)]);
  expect(kit.source!.generator).toBe('ab');
  expect(kit.source!.notes.map(({ message }) => message)).toContainEqual(expect.stringMatching(/^Taken out of \d+ texts .*can’t be kept/));
});

test('bytes that lie between others in a larger buffer are read as they are', async () => {
  const file = new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
  for (let offset = 0; offset < 9; offset++) {
    const buffer = new Uint8Array(file.length + offset + 3);
    buffer.set(file, offset);
    const kit = await readFile(buffer.subarray(offset, offset + file.length), 'a.obj', new MemoryBlobs());
    expect(Object.keys(kit.parts)).toHaveLength(1);
  }
});
