import { encode } from 'fast-png';
import { strToU8, zipSync } from 'fflate';
import { sailFrame, tailCollada, tailGlb, WALKER_BVH } from './fixtures';

const gltf = (fields: object) => strToU8(JSON.stringify({ asset: { version: '2.0' }, ...fields }));
const data = (floats: number[]) =>
  `data:application/octet-stream;base64,${Buffer.from(Float32Array.from(floats).buffer).toString('base64')}`;
const TRIANGLE = {
  buffers: [{ byteLength: 36, uri: data([0, 0, 0, 1, 0, 0, 0, 1, 0]) }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
  nodes: [{ mesh: 0, name: 'a' }],
  scenes: [{ nodes: [0] }],
};
export const withTriangle = (fields: object) => gltf({ ...TRIANGLE, ...fields });
const chain = (n: number) => Array.from({ length: n }, (_, i) => ({ name: `n${i}`, ...(i + 1 < n ? { children: [i + 1] } : {}) }));

/** A PNG that says it is larger than it is. */
function widePng(side: number): Uint8Array {
  const png = encode({ width: 1, height: 1, channels: 3, depth: 8, data: new Uint8Array(3) }).slice();
  new DataView(png.buffer).setUint32(16, side);
  return png;
}

const dae = (from: string | RegExp, to: string) => strToU8(tailCollada().replace(from, to));
const bvh = (from: string | RegExp, to: string) => strToU8(WALKER_BVH.replace(from, to));
export const PLY =
  'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n';

/** Broken or hostile files: what is wrong, the refusal's code or the notes' of the reading, a file name, and the bytes. */
export const HOSTILE_CORPUS: [wrong: string, fate: string | RegExp, fileName: string, make: () => Uint8Array | Promise<Uint8Array>][] = [
  ['nothing at all', 'not-known', 'empty.glb', () => new Uint8Array(0)],
  ['a text', 'not-known', 'letter.glb', () => strToU8('Dear harbour master,')],
  ['a GLB cut short', 'truncated', 'a.glb', async () => (await tailGlb()).slice(0, 700)],
  ['a GLB of four bytes', 'truncated', 'a.glb', () => strToU8('glTF')],
  ['a GLB of version 9', 'invalid', 'a.glb', async () => edited(await tailGlb(), (view) => view.setUint32(4, 9, true))],
  [
    'a GLB whose chunk is longer than it',
    'truncated',
    'a.glb',
    async () => edited(await tailGlb(), (view) => view.setUint32(12, 0xfffffff0, true)),
  ],
  ['a GLB whose JSON is none', 'invalid', 'a.glb', async () => edited(await tailGlb(), (view) => view.setUint8(20, 0x7d))],
  ['glTF 1.0', 'invalid', 'a.gltf', () => gltf({ asset: { version: '1.0' } })],
  ['JSON that is a list', 'not-known', 'a.gltf', () => strToU8('[1,2]')],
  ['nodes that are text', 'invalid', 'a.gltf', () => gltf({ nodes: 'many' })],
  ['a node that is null', 'invalid', 'a.gltf', () => gltf({ nodes: [null] })],
  ['a child that is not there', 'invalid', 'a.gltf', () => gltf({ nodes: [{ children: [5] }] })],
  ['nodes in a circle', 'invalid', 'a.gltf', () => gltf({ nodes: [{ children: [1] }, { children: [0] }] })],
  ['a node that is its own child', 'invalid', 'a.gltf', () => gltf({ nodes: [{ children: [0] }] })],
  ['a node below two', 'invalid', 'a.gltf', () => gltf({ nodes: [{ children: [2] }, { children: [2] }, {}] })],
  ['nodes nested 15,000 deep', /^read: (empty)?/, 'a.gltf', () => gltf({ nodes: chain(15_000), scenes: [{ nodes: [0] }] })],
  ['more parts than can be', 'too-large', 'a.gltf', () => gltf({ nodes: Array.from({ length: 20_001 }, () => ({})) })],
  [
    'more than 5 million triangles drawn, by one small mesh shown often',
    'too-large',
    'a.gltf',
    () =>
      withTriangle({
        accessors: [...TRIANGLE.accessors, { componentType: 5125, count: 3000, type: 'SCALAR' }],
        meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
        nodes: Array.from({ length: 5001 }, () => ({ mesh: 0 })),
        scenes: [{ nodes: Array.from({ length: 5001 }, (_, i) => i) }],
      }),
  ],
  ['an accessor out of range', 'invalid', 'a.gltf', () => withTriangle({ meshes: [{ primitives: [{ attributes: { POSITION: 7 } }] }] })],
  [
    'an accessor longer than its view',
    'invalid',
    'a.gltf',
    () => withTriangle({ accessors: [{ bufferView: 0, componentType: 5126, count: 300, type: 'VEC3' }] }),
  ],
  [
    'an accessor of a billion rows',
    'invalid',
    'a.gltf',
    () => withTriangle({ accessors: [{ componentType: 5126, count: 1e9, type: 'VEC3' }] }),
  ],
  [
    'an accessor of a type that is none',
    'invalid',
    'a.gltf',
    () => withTriangle({ accessors: [{ bufferView: 0, componentType: 99, count: 3, type: 'VEC9' }] }),
  ],
  [
    'positions that are scalars',
    'invalid',
    'a.gltf',
    () => withTriangle({ accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'SCALAR' }] }),
  ],
  [
    'all positions no numbers',
    /^read: .*not-finite/,
    'a.gltf',
    () => withTriangle({ buffers: [{ byteLength: 36, uri: data(Array(9).fill(NaN)) }] }),
  ],
  [
    'a placement that is no number',
    /^(invalid|read: .*placement)/,
    'a.gltf',
    () => withTriangle({ nodes: [{ mesh: 0, translation: ['1e999', 0, 0] as never }] }),
  ],
  [
    'a buffer on another machine',
    'remote',
    'a.gltf',
    () => withTriangle({ buffers: [{ byteLength: 36, uri: 'https://example.invalid/a.bin' }] }),
  ],
  ['a buffer by file address', 'remote', 'a.gltf', () => withTriangle({ buffers: [{ byteLength: 36, uri: 'file:///etc/hostname' }] })],
  ['a buffer that is not there', 'missing-file', 'a.gltf', () => withTriangle({ buffers: [{ byteLength: 36, uri: 'hull.bin' }] })],
  [
    'a buffer outside of its archive',
    'missing-file',
    'a.zip',
    () => zipSync({ 'a.gltf': withTriangle({ buffers: [{ byteLength: 36, uri: '../../../etc/hostname' }] }) }),
  ],
  [
    'a buffer cut short beside it',
    'truncated',
    'a.zip',
    () => zipSync({ 'a.gltf': withTriangle({ buffers: [{ byteLength: 36, uri: 'a.bin' }] }), 'a.bin': new Uint8Array(20) }),
  ],
  [
    'an extension that it can not do without',
    'extension',
    'a.gltf',
    () => withTriangle({ extensionsRequired: ['ACME_voxels'], extensionsUsed: ['ACME_voxels'] }),
  ],
  ['an extension that it can do without', 'read: extension', 'a.gltf', () => withTriangle({ extensionsUsed: ['ACME_voxels'] })],
  [
    'a picture of 20,000 pixels',
    'too-large',
    'a.gltf',
    () =>
      withTriangle({
        images: [{ mimeType: 'image/png', uri: `data:image/png;base64,${Buffer.from(widePng(20_000)).toString('base64')}` }],
      }),
  ],
  [
    'a picture that is none',
    /^read: image-unreadable/,
    'a.gltf',
    () => withTriangle({ images: [{ mimeType: 'image/png', uri: data([1, 2, 3]).replace('octet-stream', 'png') }] }),
  ],
  [
    'a skin without joints',
    /^(invalid|read: .*)/,
    'a.gltf',
    () => withTriangle({ skins: [{ joints: [] }], nodes: [{ mesh: 0, skin: 0 }] }),
  ],
  [
    'an animation of a sampler that is not there',
    'invalid',
    'a.gltf',
    () => withTriangle({ animations: [{ samplers: [], channels: [{ sampler: 0, target: { node: 0, path: 'rotation' } }] }] }),
  ],
  ['a ZIP that leaves its folder', 'path', 'a.zip', () => zipSync({ '../a.obj': strToU8(sailFrame(0)) })],
  ['a ZIP bomb', 'ratio', 'a.zip', () => zipSync({ 'a.obj': new Uint8Array(40 << 20) })],
  [
    'a ZIP of 2,001 entries',
    'too-large',
    'a.zip',
    () => zipSync(Object.fromEntries(Array.from({ length: 2001 }, (_, i) => [`${i}.txt`, new Uint8Array(1)]))),
  ],
  ['a ZIP cut short', 'truncated', 'a.zip', () => zipSync({ 'a.obj': strToU8(sailFrame(0)) }).slice(0, 60)],
  ['a ZIP of nothing', 'no-model', 'a.zip', () => zipSync({})],
  ['a ZIP of a ZIP', 'no-model', 'a.zip', () => zipSync({ 'b.zip': zipSync({ 'a.obj': strToU8(sailFrame(0)) }) })],
  ['a ZIP of two models', 'several-models', 'a.zip', () => zipSync({ 'a.obj': strToU8(sailFrame(0)), 'b.obj': strToU8(sailFrame(0)) })],
  [
    'frames of different topology',
    'topology',
    'a.zip',
    () => zipSync({ 'a1.obj': strToU8(sailFrame(0)), 'a2.obj': strToU8(`${sailFrame(1)}\nf 1 2 3`) }),
  ],
  [
    'frames with one number twice',
    'invalid',
    'a.zip',
    () => zipSync({ 'a1.obj': strToU8(sailFrame(0)), 'a01.obj': strToU8(sailFrame(1)) }),
  ],
  ['an OBJ that points past its end', 'index-range', 'a.obj', () => strToU8('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9')],
  ['an OBJ of numbers that are none', 'nothing-kept', 'a.obj', () => strToU8('v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3')],
  ['a PLY of a billion vertices', 'invalid', 'a.ply', () => strToU8(PLY.replace('vertex 3', 'vertex 1000000000'))],
  ['a PLY whose vertices have no place', 'invalid', 'a.ply', () => strToU8(PLY.replace(/property float .\n/g, ''))],
  ['a PLY with fewer rows than it says', 'truncated', 'a.ply', () => strToU8(PLY.replace('vertex 3', 'vertex 300'))],
  [
    'an STL of more facets than it has',
    /truncated|not-known/,
    'a.stl',
    () => edited(new Uint8Array(134), (view) => view.setUint32(80, 1e6, true)),
  ],
  ['COLLADA cut short', 'invalid', 'a.dae', () => strToU8(tailCollada().slice(0, 3000))],
  [
    'COLLADA that swells',
    'invalid',
    'a.dae',
    () => strToU8(`<?xml version="1.0"?><!DOCTYPE c [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]><COLLADA>&b;</COLLADA>`),
  ],
  ['COLLADA nested without end', 'invalid', 'a.dae', () => strToU8(`<COLLADA>${'<a>'.repeat(5000)}`)],
  ['COLLADA whose faces point past its points', 'index-range', 'a.dae', () => dae(/<p>\d+ \d+/, '<p>999 0')],
  [
    'COLLADA whose nodes hang in a circle',
    'invalid',
    'a.dae',
    () => dae('<translate sid="loc">0 0 75</translate>', '<instance_node url="#root"/>'),
  ],
  ['COLLADA whose joints are elsewhere', /^read: .*skin-joints/, 'a.dae', () => dae('>Root Tip<', '>Root Fin<')],
  ['COLLADA with a mesh that is not there', 'invalid', 'a.dae', () => dae('skin source="#tail-geo"', 'skin source="#nowhere"')],
  ['COLLADA with fewer weights than it says', 'invalid', 'a.dae', () => dae(/<vcount>2 /, '<vcount>200 ')],
  ['BVH that is never closed', /invalid|truncated/, 'a.bvh', () => bvh('}\nMOTION', '\nMOTION')],
  ['BVH with fewer values than frames', 'truncated', 'a.bvh', () => bvh('Frames: 4', 'Frames: 5')],
  ['BVH of a billion frames', 'truncated', 'a.bvh', () => bvh('Frames: 4', 'Frames: 1000000000')],
  ['BVH with a word for a number', 'invalid', 'a.bvh', () => bvh('90.0', 'high')],
  ['BVH that stands still in time', 'invalid', 'a.bvh', () => bvh('0.0333333', '0')],
];

function edited(bytes: Uint8Array, edit: (view: DataView) => void): Uint8Array {
  const out = bytes.slice();
  edit(new DataView(out.buffer));
  return out;
}
