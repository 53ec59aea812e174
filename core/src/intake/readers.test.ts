import { encode } from 'fast-png';
import { strToU8, zipSync } from 'fflate';
import { checkKit, MemoryBlobs, readArray, type Kit } from '../document';
import { kitCounts, restBounds } from '../geometry';
import { IntakeError } from './intake-error';
import { readFile } from './read-file';

const blobs = new MemoryBlobs();
const read = async (text: string | Uint8Array, name: string): Promise<Kit> =>
  checkKit(await readFile(typeof text === 'string' ? strToU8(text) : text, name, blobs));
const codes = (kit: Kit) => kit.source!.notes.map((note) => note.code);
const attribute = (kit: Kit, name: string) => [...readArray(blobs, Object.values(kit.meshes)[0].primitives[0].attributes[name])];

async function refusal(bytes: Uint8Array | string, name: string): Promise<string> {
  const error = await read(bytes, name).then(
    () => null,
    (reason: unknown) => reason,
  );
  expect(error).toBeInstanceOf(IntakeError);
  expect((error as Error).message).toMatch(/^“.*\.$/s);
  return (error as IntakeError).code;
}

const OBJ = `# a crate
mtllib yard.mtl
v 0 0 0
v 2 0 0
v 2 1 0
v 0 1 0
vt 0 0
vt 1 0
vt 1 1
vt 0 1
vn 0 0 1
o Lid
usemtl planks
f 1/1/1 2/2/1 \\
  3/3/1 4/4/1
g Handle
f -4 -3 -2
l 1 2
`;

test('OBJ: polygons, continued lines, numbers counted back, groups as parts, v turned over', async () => {
  const kit = await read(OBJ, 'crate.obj');
  expect(Object.values(kit.parts).map((part) => part.name)).toEqual(['Lid', 'Handle']);
  expect(kitCounts(kit)).toEqual({ triangles: 3, vertices: 7 });
  expect(restBounds(kit, blobs)).toEqual({ min: [0, 0, 0], max: [2, 1, 0] });
  expect(attribute(kit, 'TEXCOORD_0')).toEqual([0, 1, 1, 1, 1, 0, 0, 0]);
  expect(codes(kit).sort()).toEqual(['missing-file', 'normals-computed', 'points-or-lines', 'unit-not-said']);
});

test('OBJ: smoothing groups say which faces are smooth where there are no normals', async () => {
  // A roof of two faces that lean 90° from each other, and one beside it in another group.
  const roof = (smoothing: string) => `v 0 0 0\nv 0 0 2\nv 1 1 0\nv 1 1 2\nv 2 0 0\nv 2 0 2\n${smoothing}f 1 2 4 3\nf 3 4 6 5\n`;
  const normals = async (smoothing: string) => {
    const kit = await read(roof(smoothing), 'roof.obj');
    const [p, n] = [attribute(kit, 'POSITION'), attribute(kit, 'NORMAL')];
    return new Set(
      Array.from({ length: p.length / 3 }, (_, v) => v)
        .filter((v) => p[3 * v + 1] === 1)
        .map((v) =>
          n
            .slice(3 * v, 3 * v + 3)
            .map((value) => Math.round(value * 1e3) / 1e3 + 0)
            .join(' '),
        ),
    );
  };
  expect(await normals('s 1\n')).toEqual(new Set(['0 1 0']));
  expect([...(await normals('s off\n'))].sort()).toEqual(['-0.707 0.707 0', '0.707 0.707 0']);
  // Without a word of them the angle decides: 90° is an edge.
  expect(await normals('')).toHaveProperty('size', 2);
  expect(codes(await read(roof('s 1\n'), 'roof.obj'))).toContain('normals-computed');
});

test('a ZIP with OBJ, MTL and a picture: material, colour and texture', async () => {
  const png = encode({ width: 4, height: 8, channels: 3, depth: 8, data: new Uint8Array(96).fill(120) });
  const zip = zipSync({
    'crate/model/crate.obj': strToU8(OBJ.replace('yard.mtl', '../yard.mtl')),
    'crate/yard.mtl': strToU8('newmtl planks\nKd 1 0.5 0\nd 0.5\nmap_Kd -s 1 1 1 tex/planks.png\n'),
    'crate/model/tex/planks.png': png,
  });
  const kit = await read(zip, 'crate.zip');
  const [material] = Object.values(kit.materials);
  expect(material.name).toBe('planks');
  expect(material.baseColor[1]).toBeCloseTo(0.214, 3);
  expect([material.alphaMode, material.baseColor[3]]).toEqual(['BLEND', 0.5]);
  expect(Object.values(kit.images).map((image) => [image.name, image.width, image.height])).toEqual([['planks', 4, 8]]);
  expect(material.baseColorTexture?.image).toBe(Object.keys(kit.images)[0]);
  expect(kit.source).toMatchObject({ fileName: 'crate.zip', format: 'zip', bytes: zip.length });
});

const PLY_HEAD = (format: string) =>
  `ply\nformat ${format} 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n`;
const SQUARE = [0, 0, 0, 3, 0, 0, 3, 2, 0, 0, 2, 0];

function binaryPly(little: boolean): Uint8Array {
  const head = strToU8(PLY_HEAD(little ? 'binary_little_endian' : 'binary_big_endian'));
  const body = new DataView(new ArrayBuffer(48 + 17));
  SQUARE.forEach((value, i) => body.setFloat32(4 * i, value, little));
  body.setUint8(48, 4);
  [0, 1, 2, 3].forEach((value, i) => body.setInt32(49 + 4 * i, value, little));
  return Uint8Array.from([...head, ...new Uint8Array(body.buffer)]);
}

test('PLY: text and both binary orders are the same square', async () => {
  const text = `${PLY_HEAD('ascii')}0 0 0\n3 0 0\n3 2 0\n0 2 0\n4 0 1 2 3\n`;
  for (const file of [strToU8(text), binaryPly(true), binaryPly(false)]) {
    const kit = await read(file, 'square.ply');
    expect(kitCounts(kit)).toEqual({ triangles: 2, vertices: 4 });
    expect(restBounds(kit, blobs)).toEqual({ min: [0, 0, 0], max: [3, 2, 0] });
    expect(attribute(kit, 'NORMAL').slice(0, 3)).toEqual([0, 0, 1]);
  }
});

function binaryStl(facets: number[][], announced = facets.length): Uint8Array {
  const view = new DataView(new ArrayBuffer(84 + 50 * facets.length));
  view.setUint32(80, announced, true);
  facets.forEach((numbers, f) => numbers.forEach((value, i) => view.setFloat32(84 + 50 * f + 4 * i, value, true)));
  return new Uint8Array(view.buffer);
}

test('STL: both kinds; a normal of no length is made from the corners', async () => {
  const facet = [0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 1, 0];
  const text = 'solid wedge\nfacet normal 0 0 0\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid wedge\n';
  for (const file of [binaryStl([facet]), strToU8(text)]) {
    const kit = await read(file, 'wedge.stl');
    expect(kitCounts(kit)).toEqual({ triangles: 1, vertices: 3 });
    expect(attribute(kit, 'NORMAL')).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
  }
});

test('triangles with a position that is no number are dropped and counted', async () => {
  const kit = await read('v 0 0 0\nv 1 0 0\nv 0 1 0\nv nan 0 0\nf 1 2 3\nf 1 2 4\n', 'odd.obj');
  expect(kitCounts(kit).triangles).toBe(1);
  expect(kit.source!.notes.find((note) => note.code === 'not-finite')?.message).toMatch(/1 triangles/);
});

test.each<[string, string, string | Uint8Array]>([
  ['index-range', 'far.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n'],
  ['index-range', 'zero.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 0 1 2\n'],
  ['invalid', 'words.obj', 'v 0 zero 0\nf 1 1 1\n'],
  ['invalid', 'line.obj', 'v 0 0 0\nv 1 0 0\nf 1 2\n'],
  ['index-range', 'far.ply', `${PLY_HEAD('ascii')}0 0 0\n3 0 0\n3 2 0\n0 2 0\n4 0 1 2 7\n`],
  ['truncated', 'cut.ply', `${PLY_HEAD('ascii')}0 0 0\n3 0 0\n`],
  ['truncated', 'cut2.ply', binaryPly(true).subarray(0, -9)],
  ['invalid', 'count.ply', PLY_HEAD('ascii').replace('vertex 4', 'vertex 99999999999')],
  ['invalid', 'head.ply', 'ply\nformat ascii 1.0\nelement vertex 4\n'],
  ['truncated', 'cut.stl', binaryStl([[0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 1, 0]], 4_000_000)],
  ['invalid', 'cut3.stl', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\n'],
  ['not-known', 'letter.obj', 'Dear harbour master,'],
  ['no-model', 'notes.zip', zipSync({ 'notes.txt': strToU8('hello') })],
  ['several-models', 'two.zip', zipSync({ 'a.obj': strToU8(OBJ), 'b.obj': strToU8(OBJ) })],
  ['path', 'out.zip', zipSync({ '../out.obj': strToU8(OBJ) })],
  ['ratio', 'bomb.zip', zipSync({ 'a.obj': new Uint8Array(40_000_000) })],
  ['too-large', 'many.zip', zipSync(Object.fromEntries(Array.from({ length: 2001 }, (_, i) => [`${i}.txt`, new Uint8Array(1)])))],
  ['truncated', 'cut.zip', zipSync({ 'a.obj': strToU8(OBJ) }).subarray(0, 60)],
])('refused as %s: %s', async (code, name, file) => {
  expect(await refusal(file, name)).toBe(code);
});

test('flipped bits in every format end in a reading or a refusal', async () => {
  let seed = 11;
  const random = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
  const files: [string, Uint8Array][] = [
    ['a.obj', strToU8(OBJ)],
    ['a.ply', binaryPly(true)],
    ['a.stl', binaryStl([[0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0]])],
    ['a.zip', zipSync({ 'a.obj': strToU8(OBJ) })],
  ];
  for (const [name, bytes] of files) {
    for (let round = 0; round < 150; round++) {
      const copy = bytes.slice();
      for (let flip = 0; flip < 3; flip++) copy[Math.floor(random() * copy.length)] ^= 1 << Math.floor(random() * 8);
      await read(copy, name).catch((error: unknown) => expect(error).toBeInstanceOf(IntakeError));
    }
  }
});
