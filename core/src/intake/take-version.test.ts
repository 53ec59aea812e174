import { WebIO, type Document } from '@gltf-transform/core';
import { checkKit, MemoryBlobs, patchKit, readArray, callOf, type Kit } from '../document';
import { runCall } from '../operations';
import { tailDocument, tailGlb } from '../tests/fixtures';
import { worldVertices } from '../tests/helpers';
import { compareVersion, matchVersion } from './match-version';
import { readFile } from './read-file';
import { takeVersion } from './take-version';

const blobs = new MemoryBlobs();
const read = (bytes: Uint8Array) => readFile(bytes, 'tail.glb', blobs);
const body = (kit: Kit) => Object.values(kit.parts).find((part) => part.from === 'body')!;

async function version(change: (document: Document) => void): Promise<Kit> {
  const document = tailDocument();
  change(document);
  return read(await new WebIO().writeBinary(document));
}

/** The tail's mesh with rings at other heights, without weights. */
function rings(document: Document, heights: number[], skinned = false): void {
  const primitive = document.getRoot().listMeshes()[0].listPrimitives()[0];
  const ring = (y: number) => [0.1, y, 0.1, -0.1, y, 0.1, -0.1, y, -0.1, 0.1, y, -0.1];
  const put = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(document.getRoot().listBuffers()[0]);
  const positions = Float32Array.from(heights.flatMap(ring));
  const indices: number[] = [];
  for (let r = 0; r + 1 < heights.length; r++) {
    for (let side = 0; side < 4; side++) {
      const [a, b] = [4 * r + side, 4 * r + ((side + 1) % 4)];
      indices.push(a, b, b + 4, a, b + 4, a + 4);
    }
  }
  primitive.listTargets().forEach((target) => target.dispose());
  document.getRoot().listMeshes()[0].setWeights([]).setExtras({});
  document
    .getRoot()
    .listAnimations()[0]
    .listChannels()
    .find((channel) => channel.getTargetPath() === 'weights')!
    .dispose();
  primitive
    .setAttribute('POSITION', put('VEC3', positions))
    .setAttribute('NORMAL', null)
    .setIndices(put('SCALAR', Uint16Array.from(indices)));
  if (skinned) return;
  primitive.setAttribute('JOINTS_0', null).setAttribute('WEIGHTS_0', null);
  document.getRoot().listSkins()[0].dispose();
}

function take(kit: Kit, base: Kit | null, next: Kit) {
  const matches = matchVersion(kit, base, next, blobs);
  const rows = compareVersion(kit, base, next, matches, blobs);
  const applied = runCall(
    kit,
    callOf(takeVersion, { next, base, matches: Object.fromEntries(Object.entries(matches).map(([id, { part }]) => [id, part])) }),
    blobs,
  );
  return { kit: checkKit(applied.kit), rows, applied };
}

/** Weight of the second joint, by the height of the vertex. */
function tipWeights(kit: Kit): [number, number][] {
  const { attributes } = kit.meshes[body(kit).mesh!].primitives[0];
  const [positions, joints, weights] = [attributes.POSITION, attributes.JOINTS_0, attributes.WEIGHTS_0].map((accessor) =>
    readArray(blobs, accessor),
  );
  return Array.from({ length: positions.length / 3 }, (_, v) => [
    positions[3 * v + 1],
    [0, 1, 2, 3].reduce((sum, k) => sum + (joints[4 * v + k] === 1 ? weights[4 * v + k] : 0), 0),
  ]);
}

test('a mesh that came back without its skin, with other triangles, keeps the skin and gets weights by nearest surface', async () => {
  const kit = await read(await tailGlb());
  const base = await read(await tailGlb());
  const next = await version((document) => rings(document, [0, 0.3, 0.6, 0.9, 1.5]));
  const { kit: after, rows, applied } = take(kit, base, next);
  expect(rows.map((row) => [row.name, row.state])).toEqual([
    ['root', 'same'],
    ['tip', 'same'],
    ['body', 'changed'],
  ]);
  expect(body(after).skin).toBe(body(kit).skin);
  for (const [height, weight] of tipWeights(after)) expect(weight).toBeCloseTo(height / 1.5, 4);
  expect(Object.keys(after.clips)).toEqual(Object.keys(kit.clips));
  expect(patchKit(applied.kit, applied.inverse)).toEqual(kit);
  // It bends: halfway through, the top ring is turned about the tip's pivot, not left where it stood.
  const clip = Object.values(after.clips).find((one) => one.name === 'wag')!;
  const highest = (time: number) => Math.max(...worldVertices(after, blobs, clip.id, time).filter((_, i) => i % 3 === 2));
  expect(highest(0.5)).toBeGreaterThan(highest(0) + 0.3);
});

test('with the same triangles the kit’s own weights stay, row by row', async () => {
  const kit = await read(await tailGlb());
  const base = await read(await tailGlb());
  const next = await version((document) => rings(document, [0, 0.4, 1.1, 1.6], true));
  const { kit: after } = take(kit, base, next);
  expect(tipWeights(after).map(([, weight]) => Math.round(weight * 1e4) / 1e4)).toEqual(
    tipWeights(kit).map(([, weight]) => Math.round(weight * 1e4) / 1e4),
  );
  expect(Math.max(...tipWeights(after).map(([height]) => height))).toBeCloseTo(1.6, 6);
});

test('a skin that the kit had none of comes in with the file; new parts hang where the file has them', async () => {
  const bare = await version((document) => rings(document, [0, 0.5, 1, 1.5]));
  const next = await version((document) => {
    const fin = document.createNode('fin').setTranslation([0, 0.2, 0.3]);
    document
      .getRoot()
      .listNodes()
      .find((node) => node.getName() === 'tip')!
      .addChild(fin);
  });
  const { kit: after, rows } = take(bare, bare, next);
  expect(rows.find((row) => row.state === 'new')!.name).toBe('fin');
  const fin = Object.values(after.parts).find((part) => part.name === 'fin')!;
  expect(after.parts[fin.parent!].name).toBe('tip');
  fin.translation.forEach((value, axis) => expect(value).toBeCloseTo([0, 0.2, 0.3][axis], 5));
  expect(body(after).skin).not.toBeNull();
  expect(worldVertices(after, blobs).sort()).toHaveLength(48);
});

test('without the old file parts are still matched and taken in', async () => {
  const kit = await read(await tailGlb());
  const { kit: after, rows } = take(kit, null, await version((document) => rings(document, [0, 0.75, 1.5])));
  expect(rows.filter((row) => row.state === 'gone')).toEqual([]);
  expect(tipWeights(after).map(([height, weight]) => Math.abs(weight - height / 1.5) < 1e-4)).not.toContain(false);
});
