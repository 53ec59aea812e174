import { Document, WebIO } from '@gltf-transform/core';
import { strToU8 } from 'fflate';
import { checkKit, MemoryBlobs, readArray, callOf, type Kit, type SampleTrack } from '../document';
import { kitCounts, quatFromTurn, restBounds } from '../geometry';
import { worldVertices } from '../tests/helpers';
import { writeGlb } from '../ship';
import { readGltf } from './gltf-reader';
import { guessSpace } from './guess-space';
import { IntakeError } from './intake-error';
import { settleSource } from './settle-source';
import { runCall } from '../operations';

function sample(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const float = (type: 'SCALAR' | 'VEC3' | 'VEC4', values: number[]) =>
    document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer);
  const primitive = document.createPrimitive().setAttribute('POSITION', float('VEC3', [0, 0, 0, 100, 0, 0, 0, 200, 0, 0, 0, 300]));
  primitive.setIndices(
    document
      .createAccessor()
      .setType('SCALAR')
      .setArray(Uint16Array.from([0, 1, 2, 0, 2, 3]))
      .setBuffer(buffer),
  );
  const mesh = document.createMesh('wedge').addPrimitive(primitive);
  const arm = document.createNode('arm').setTranslation([0, 50, 0]).setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2]).setMesh(mesh);
  const base = document.createNode('base').setTranslation([10, 0, 0]).setMesh(mesh).addChild(arm);
  document.createScene('yard').addChild(base);
  const sampler = document
    .createAnimationSampler()
    .setInput(float('SCALAR', [0, 1, 2]))
    .setOutput(float('VEC4', [0, 0, Math.SQRT1_2, Math.SQRT1_2, 0, 0, 1, 0, 0, 0, Math.SQRT1_2, Math.SQRT1_2]));
  document
    .createAnimation('wave')
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(arm).setTargetPath('rotation').setSampler(sampler));
  return document;
}

const glb = () => new WebIO().writeBinary(sample());
const read = (bytes: Uint8Array, blobs = new MemoryBlobs()) => readGltf(bytes, 'sample.glb', blobs);

async function refusal(bytes: Uint8Array): Promise<IntakeError> {
  try {
    await read(bytes);
  } catch (error) {
    expect(error).toBeInstanceOf(IntakeError);
    return error as IntakeError;
  }
  throw new Error('It was not refused');
}

test('parts, counts, bounds and motion are those of the file', async () => {
  const blobs = new MemoryBlobs();
  const { kit, partOfNode } = await read(await glb(), blobs);
  checkKit(kit);
  expect(Object.values(kit.parts).map((part) => part.name)).toEqual(['base', 'arm']);
  expect(kitCounts(kit)).toEqual({ triangles: 4, vertices: 8 });
  expect(Object.keys(kit.meshes)).toHaveLength(1);
  [-190, 0, 0].forEach((value, axis) => expect(restBounds(kit, blobs).min[axis]).toBeCloseTo(value, 6));
  [110, 200, 300].forEach((value, axis) => expect(restBounds(kit, blobs).max[axis]).toBeCloseTo(value, 6));
  const [clip] = Object.values(kit.clips);
  expect([clip.name, clip.lengthSeconds]).toEqual(['wave', 2]);
  // Relative to rest: at 0 s the arm is at rest, at 1 s a quarter turn on.
  const spins = readArray<Float32Array>(blobs, (clip.tracks[0] as SampleTrack).values);
  quatFromTurn([0, 0, 90], 'xyz').forEach((value, i) => expect(spins[4 + i]).toBeCloseTo(value, 6));
  // Nodes in the order of the file.
  expect(partOfNode.flatMap((id) => (id ? [kit.parts[id].name] : []))).toEqual(['arm', 'base']);
});

test('a file drawn in centimetres is guessed so, and settling scales it without a scaled root', async () => {
  const blobs = new MemoryBlobs();
  const { kit } = await read(await glb(), blobs);
  const guess = guessSpace(kit, blobs);
  expect(guess.space.metresPerUnit).toBe(0.01);
  expect(guess.why).toMatch(/centimetres/);
  const settled = runCall(kit, callOf(settleSource, { space: guess.space }), blobs).kit;
  expect(restBounds(settled, blobs).max[2]).toBeCloseTo(3, 6);
  for (const part of Object.values(settled.parts)) expect(part.scale).toEqual([1, 1, 1]);
  const back = runCall(settled, callOf(settleSource, { space: kit.source!.space }), blobs).kit;
  worldVertices(back, blobs).forEach((value, i) => expect(value).toBeCloseTo(worldVertices(kit, blobs)[i], 2));
});

test('strips and fans become the same triangles', async () => {
  const bytes = async (mode: 5 | 6, indices: number[]) => {
    const document = sample();
    const primitive = document.getRoot().listMeshes()[0].listPrimitives()[0];
    primitive.setMode(mode).getIndices()!.setArray(Uint16Array.from(indices));
    return new WebIO().writeBinary(document);
  };
  for (const [mode, list] of [
    [5, [0, 1, 2, 1, 3, 2]],
    [6, [1, 2, 0, 2, 3, 0]],
  ] as const) {
    const blobs = new MemoryBlobs();
    const { kit } = await read(await bytes(mode, [0, 1, 2, 3]), blobs);
    expect([...readArray(blobs, Object.values(kit.meshes)[0].primitives[0].indices)]).toEqual(list);
  }
});

test('what has no place in a kit is named', async () => {
  const document = sample();
  const root = document.getRoot();
  root.listNodes()[0].setCamera(document.createCamera('eye').setType('perspective'));
  const { kit } = await read(await new WebIO().writeBinary(document));
  expect(kit.source!.notes.map((note) => note.code).sort()).toEqual(['camera']);
});

test('a text file in disguise, an empty one and a picture are not known', async () => {
  for (const text of ['Dear harbour master,', '', '\x89PNG\r\n']) expect((await refusal(strToU8(text, true))).code).toBe('not-known');
});

test('cut short anywhere, it is refused and never half read', async () => {
  const bytes = await glb();
  for (const share of [0.001, 0.02, 0.1, 0.5, 0.9, 0.999]) {
    const error = await refusal(bytes.subarray(0, Math.max(4, Math.floor(bytes.length * share))));
    expect(error.code).toBe('truncated');
    expect(error.message).toMatch(/cut short/);
  }
});

const json = (change: (file: Record<string, unknown>) => void) => {
  const file: Record<string, unknown> = { asset: { version: '2.0' }, scene: 0, scenes: [{ nodes: [0] }], nodes: [{ name: 'a' }] };
  change(file);
  return strToU8(JSON.stringify(file));
};

test.each<[string, string, (file: Record<string, unknown>) => void]>([
  ['invalid', 'glTF version 1', (file) => void (file.asset = { version: '1.0' })],
  ['invalid', 'lists of another type', (file) => void (file.nodes = 'many')],
  ['invalid', 'a node below itself', (file) => void (file.nodes = [{ children: [1] }, { children: [0] }])],
  ['invalid', 'a child of two nodes', (file) => void (file.nodes = [{ children: [2] }, { children: [2] }, {}])],
  ['invalid', 'a child that is not there', (file) => void (file.nodes = [{ children: [9] }])],
  [
    'invalid',
    'an accessor that is not there',
    (file) => void Object.assign(file, { meshes: [{ primitives: [{ attributes: { POSITION: 4 } }] }], nodes: [{ mesh: 0 }] }),
  ],
  ['remote', 'data on another machine', (file) => void (file.buffers = [{ uri: 'https://example.invalid/a.bin', byteLength: 4 }])],
  ['missing-file', 'data in a file of its own', (file) => void (file.buffers = [{ uri: 'wheel.bin', byteLength: 4 }])],
])('refused as %s: %s', async (code, _, change) => {
  const error = await refusal(json(change));
  expect(error.code).toBe(code);
  expect(error.message).toMatch(/^“sample\.glb”.*\.$/s);
});

test('a vertex number out of range is refused with its place', async () => {
  const document = sample();
  document
    .getRoot()
    .listMeshes()[0]
    .listPrimitives()[0]
    .getIndices()!
    .setArray(Uint16Array.from([0, 1, 400]));
  expect((await refusal(await new WebIO().writeBinary(document))).code).toBe('index-range');
});

test('flipped bits end in a reading or a refusal', async () => {
  const bytes = await glb();
  let seed = 7;
  const random = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
  for (let round = 0; round < 200; round++) {
    const copy = bytes.slice();
    for (let flip = 0; flip < 4; flip++) copy[Math.floor(random() * copy.length)] ^= 1 << Math.floor(random() * 8);
    try {
      checkKit((await read(copy)).kit);
    } catch (error) {
      expect(error).toBeInstanceOf(IntakeError);
    }
  }
});

test.each([
  [0, 'points', [2, 0, 1]],
  [1, 'lines', [2, 0]],
  [2, 'lines', [2, 0, 0, 1, 1, 2]],
  [3, 'lines', [2, 0, 0, 1]],
] as const)('mode %s is kept as %s, survives settling and is written again', async (mode, kind, list) => {
  const document = sample();
  const mesh = document.getRoot().listMeshes()[0];
  const position = mesh.listPrimitives()[0].getAttribute('POSITION')!;
  const order = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(Uint16Array.of(2, 0, 1))
    .setBuffer(document.getRoot().listBuffers()[0]);
  mesh.listPrimitives().forEach((primitive) => primitive.dispose());
  mesh.addPrimitive(document.createPrimitive().setMode(mode).setAttribute('POSITION', position).setIndices(order));
  const blobs = new MemoryBlobs();
  const { kit } = await read(await new WebIO().writeBinary(document), blobs);
  const strokeOf = (one: Kit) => Object.values(one.meshes)[0].strokes![0];
  expect(strokeOf(kit).mode).toBe(kind);
  expect([...readArray(blobs, strokeOf(kit).indices)]).toEqual(list);
  expect(kitCounts(kit)).toEqual({ triangles: 0, vertices: 2 * position.getCount() });
  const settled = runCall(kit, callOf(settleSource, { space: { ...kit.source!.space, metresPerUnit: 0.01 } }), blobs).kit;
  expect(restBounds(settled, blobs).max[2]).toBeCloseTo(restBounds(kit, blobs).max[2] / 100, 6);
  const again = await read((await writeGlb(settled, blobs)).bytes, blobs);
  expect(strokeOf(again.kit).indices.blob).toBe(strokeOf(kit).indices.blob);
  checkKit(again.kit);
});
