import { WebIO, getBounds } from '@gltf-transform/core';
import validator from 'gltf-validator';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { MemoryBlobs, partsInOrder, putArray, readArray, callOf, type Kit, type Vec3 } from '../document';
import { readGltf } from '../intake';
import { SHIPPED } from '../tests/sound-kits';
import { writeGlb } from './write-glb';
import {
  angleBetweenQuats,
  applyMat3,
  CANONICAL,
  changeOfSpace,
  flattenParts,
  kitCounts,
  Poser,
  posedVertices,
  quatFromTurn,
  restBounds,
} from '../geometry';
import { addRestClip, compileClip, sampleClip } from '../motion';
import { checkRulebook, runChecks } from '../rulebook';
import { chainKit, extentOf, greatestDifference, run, withMotion, worldVertices } from '../tests/helpers';
import { addBinding, evaluateBinding } from '../wiring';
import { bakeClip } from './bake';
import { ManifestError } from './manifest';
import { packKit } from './pack-kit';
import { readPackage } from './read-package';
import { unzipFiles, ZipError, zipFiles } from './zip';

const rulebook = checkRulebook(brinework);

function machine(): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([
    { id: 'base', name: 'base' },
    { id: 'drv_slew', translation: [1, 0.5, -2], rotation: quatFromTurn([0, 25, 0], 'xyz'), role: 'driven' },
    { id: 'hook', translation: [0, 1, 2], rotation: quatFromTurn([30, 0, 10], 'xyz') },
  ]);
  let kit = withMotion(made.kit, made.blobs, 'drv_slew', 'turn', 1, [0, 540], 'straight');
  kit = withMotion(kit, made.blobs, 'drv_slew', 'turn', 0, [0, 12, -8]);
  kit = withMotion(kit, made.blobs, 'hook', 'offset', 1, [0, -1.5], 'bounce');
  kit = withMotion(kit, made.blobs, 'hook', 'size', 0, [1, 2, 1], 'hold');
  const rows = [0, -170, 170].map((value) => ({
    value,
    offset: [0, 0, value / 1000] as Vec3,
    turn: [0, value, 0] as Vec3,
    size: [1, 1, 1] as Vec3,
  }));
  kit = run(
    kit,
    made.blobs,
    callOf(addBinding, { id: 'x', part: 'drv_slew', variable: 'crane_slew_angle', index: 3, outside: 'clamp', rows }),
  );
  return { kit, blobs: made.blobs };
}

const place = (points: number[]) => {
  const { basis, scale } = changeOfSpace(CANONICAL, rulebook.space);
  const out: number[] = [];
  for (let i = 0; i < points.length; i += 3) out.push(...applyMat3(basis, points.slice(i, i + 3)).map((value) => value * scale));
  return out;
};

test('the same kit gives the same bytes, however its document was filled', async () => {
  const { kit, blobs } = machine();
  const shuffled = JSON.parse(
    JSON.stringify(kit, (_, value: unknown) =>
      value && typeof value === 'object' && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).reverse()) : value,
    ),
  ) as Kit;
  const one = await packKit(kit, rulebook, blobs, []);
  const two = await packKit(shuffled, rulebook, blobs, []);
  expect(two.sha).toBe(one.sha);
  expect(Object.keys(unzipFiles(one.bytes))).toEqual(['manifest.json', 'test/shown.csv', 'test/test.glb', 'test/wiring.csv']);
});

test('the model passes the standard’s validator, and a second reader finds the same names, triangles and bounds', async () => {
  const { kit, blobs } = machine();
  const glb = unzipFiles((await packKit(kit, rulebook, blobs, [])).bytes)['test/test.glb'];
  const { issues } = await validator.validateBytes(glb);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const document = await new WebIO().readBinary(glb);
  const root = document.getRoot();
  expect(root.listNodes().map((node) => node.getName())).toEqual(partsInOrder(kit).map((part) => part.name));
  const triangles = root
    .listNodes()
    .flatMap((node) => node.getMesh()?.listPrimitives() ?? [])
    .reduce((sum, primitive) => sum + primitive.getIndices()!.getCount() / 3, 0);
  expect(triangles).toBe(kitCounts(kit).triangles);
  const theirs = getBounds(root.listScenes()[0]);
  const ours = restBounds(kit, blobs);
  const corners = place([...ours.min, ...ours.max]);
  for (let axis = 0; axis < 3; axis++) {
    expect(theirs.min[axis]).toBeCloseTo(Math.min(corners[axis], corners[axis + 3]), 5);
    expect(theirs.max[axis]).toBeCloseTo(Math.max(corners[axis], corners[axis + 3]), 5);
  }
});

test('clips move the same in the package: every vertex within a millimetre, 540° one and a half turns', async () => {
  const { kit, blobs } = machine();
  const store = new MemoryBlobs();
  const { kit: there } = await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, store);
  const clip = Object.values(there.clips)[0];
  expect(clip.lengthSeconds).toBe(2);
  const ours = new Poser(flattenParts(kit));
  const theirs = new Poser(flattenParts(there));
  const compiledOurs = compileClip(kit.clips.clip, ours.flat, blobs);
  const compiledTheirs = compileClip(clip, theirs.flat, store);
  for (let i = 0; i <= 200; i++) {
    const time = (2 * i) / 200 + (i === 200 ? 0 : 0.0031);
    for (const [poser, compiled] of [
      [ours, compiledOurs],
      [theirs, compiledTheirs],
    ] as const) {
      poser.reset();
      sampleClip(compiled, time, poser.pose);
      poser.update();
    }
    const a = partsInOrder(kit).flatMap((part) => [...posedVertices(kit, blobs, part, (id) => ours.worldOf(id), ours.weightsOf(part.id))]);
    const b = partsInOrder(there).flatMap((part) => [
      ...posedVertices(there, store, part, (id) => theirs.worldOf(id), theirs.weightsOf(part.id)),
    ]);
    expect(greatestDifference(b, place(a))).toBeLessThan(0.0015);
  }
});

test('a clip that moves nothing is in the model, for as long as it lasts, and is sound glTF', async () => {
  const { kit, blobs } = machine();
  const still = run(kit, blobs, callOf(addRestClip, { id: 'rest', name: 'rest', rate: 20 }));
  const { bytes } = await packKit(still, rulebook, blobs, []);
  const glb = unzipFiles(bytes)['test/test.glb'];
  const { issues } = await validator.validateBytes(glb);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const animation = (await new WebIO().readBinary(glb)).getRoot().listAnimations()[0];
  expect(animation.getName()).toBe('rest');
  expect(animation.listSamplers()[0].getInput()!.getMax([])[0]).toBeCloseTo(0.05, 6);
  const { kit: there } = await readPackage(bytes, new MemoryBlobs());
  expect(Object.values(there.clips).map(({ name }) => name)).toEqual(['rest', 'clip']);
});

test('baked turns never go further than 90° from key to key', () => {
  const { kit, blobs } = machine();
  for (const baked of bakeClip(kit, kit.clips.clip, blobs)) {
    const q = (i: number) => [...baked.rotation.subarray(4 * i, 4 * i + 4)] as [number, number, number, number];
    for (let i = 1; i < baked.times.length; i++) {
      expect(baked.times[i]).toBeGreaterThan(baked.times[i - 1]);
      expect(angleBetweenQuats(q(i - 1), q(i))).toBeLessThanOrEqual(90 + 1e-6);
    }
  }
});

test('bindings turn the same in the platform’s axes', async () => {
  const { kit, blobs } = machine();
  const loaded = await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, new MemoryBlobs());
  const [binding] = Object.values(loaded.kit.bindings);
  expect(loaded.kit.parts[binding.part].name).toBe('drv_slew');
  expect([binding.variable, binding.index]).toEqual(['crane_slew_angle', 3]);
  // Brinework's up is z: a turn about our y is one about its z.
  expect(evaluateBinding(binding, 35).turn[2]).toBeCloseTo(35, 9);
});

test('a skinned kit is written with its mesh at the top and poses alike', async () => {
  const { kit, blobs } = machine();
  const { attributes } = kit.meshes.mesh_hook.primitives[0];
  const skinned = JSON.parse(JSON.stringify(kit)) as Kit;
  skinned.meshes.mesh_hook.primitives[0].attributes = {
    ...attributes,
    JOINTS_0: putArray(blobs, Uint16Array.from([1, 0, 0, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0]), 4),
    WEIGHTS_0: putArray(blobs, Float32Array.from([1, 0, 0, 0, 0.25, 0.75, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]), 4),
  };
  skinned.skins.s = {
    id: 's',
    name: 's',
    joints: ['base', 'drv_slew'],
    inverseBindMatrices: putArray(
      blobs,
      Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -1, -0.5, 2, 1]),
      16,
    ),
  };
  skinned.parts.hook.skin = 's';
  const bytes = (await packKit(skinned, rulebook, blobs, [])).bytes;
  const { issues } = await validator.validateBytes(unzipFiles(bytes)['test/test.glb']);
  expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  const store = new MemoryBlobs();
  const { kit: there } = await readPackage(bytes, store);
  const before = place(worldVertices(skinned, blobs));
  const names = Object.values(there.parts).sort((a, b) => (a.name < b.name ? -1 : 1));
  const poser = new Poser(flattenParts(there));
  const after = names.flatMap((part) => [...posedVertices(there, store, part, (id) => poser.worldOf(id))]);
  expect(greatestDifference(after, before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
});

test('a package that was tampered with, cut short or is none is refused in a sentence', async () => {
  const { kit, blobs } = machine();
  const { bytes } = await packKit(kit, rulebook, blobs, []);
  const files = unzipFiles(bytes);
  const other = { ...files, 'test/wiring.csv': new Uint8Array([1, 2, 3]) };
  await expect(readPackage(zipFiles(other), new MemoryBlobs())).rejects.toThrow(ManifestError);
  const { 'test/test.glb': _, ...rest } = files;
  await expect(readPackage(zipFiles(rest), new MemoryBlobs())).rejects.toThrow(/test\/test\.glb/);
  await expect(readPackage(bytes.subarray(0, 300), new MemoryBlobs())).rejects.toThrow(ZipError);
});

test('the same bytes as numbers of another kind are accessors of their own: zero joints are no zero colours', async () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  const zeros = (rows: number) => putArray(blobs, new Float32Array(4 * rows), 4);
  // Four colours of four floats, and eight sets of four joints: 64 bytes of nothing each.
  kit.meshes.mesh_a.primitives[0].attributes.COLOR_0 = zeros(4);
  const skinned = kit.meshes.mesh_b.primitives[0].attributes;
  for (const [semantic, accessor] of Object.entries(skinned)) {
    const array = readArray<Float32Array>(blobs, accessor);
    skinned[semantic] = putArray(blobs, Float32Array.from([...array, ...array]), accessor.size);
  }
  skinned.JOINTS_0 = putArray(blobs, new Uint16Array(32), 4);
  skinned.WEIGHTS_0 = putArray(
    blobs,
    Float32Array.from({ length: 32 }, (_, i) => Number(i % 4 === 0)),
    4,
  );
  const identity = Float32Array.from({ length: 16 }, (_, i) => Number(i % 5 === 0));
  kit.skins.skin = { id: 'skin', name: 'skin', joints: ['a'], inverseBindMatrices: putArray(blobs, identity, 16) };
  kit.parts.b.skin = 'skin';
  expect(kit.meshes.mesh_a.primitives[0].attributes.COLOR_0.blob).toBe(skinned.JOINTS_0.blob);
  const { bytes } = await writeGlb(kit, blobs);
  const report = await validator.validateBytes(bytes);
  expect(report.issues.numErrors).toBe(0);
  const store = new MemoryBlobs();
  const { kit: read } = await readGltf(bytes, 'a.glb', store);
  const of = (name: string) => read.meshes[Object.values(read.parts).find((part) => part.name === name)!.mesh!].primitives[0].attributes;
  expect([of('a').COLOR_0.count, of('b').JOINTS_0.count]).toEqual([4, 8]);
});

test('two clips of one file are said by the check, mended, and packed', async () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const moving = withMotion(kit, blobs, 'a', 'turn', 0, [0, 10]);
  const both: Kit = {
    ...moving,
    clips: { clip: { ...moving.clips.clip, name: 'Walk' }, two: { ...moving.clips.clip, id: 'two', name: 'walk!', order: 1 } },
  };
  const { clashmere } = SHIPPED;
  await expect(packKit(both, clashmere, blobs, [])).rejects.toThrow(/stand twice/);
  const said = runChecks({ kit: both, rulebook: clashmere, blobs }).filter(({ check }) => check === 'clips.unique');
  expect(said.map(({ title, mend }) => [title, mend?.safe])).toEqual([['Two clips of one file', true]]);
  const mended = run(both, blobs, said[0].mend!.call);
  const { manifest } = await packKit(mended, clashmere, blobs, []);
  expect(manifest.files.filter(({ holds }) => holds === 'clip').map(({ path }) => path)).toEqual([
    'test/clips/walk.glb',
    'test/clips/walk_2.glb',
  ]);
});
