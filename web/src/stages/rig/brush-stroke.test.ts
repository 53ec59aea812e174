import type * as THREE from 'three';
import { MemoryBlobs, newPart, putArray, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import type { BrushSettings } from '@itchkit/core/rig';
import { chainKit, putSphere } from '../../../../core/src/tests/helpers';
import { KitScene } from '../../bench/kit-scene';
import { BrushStroke } from './brush-stroke';

/** A ball of radius 1 that follows the joint `low` all over; `high` stands 1 m further up. */
function skinnedBall(): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit(
    [
      { id: 'low', mesh: null },
      { id: 'high', mesh: null, translation: [0, 1, 0] },
    ],
    new MemoryBlobs(),
  );
  putSphere(kit, blobs, 'ball', 12);
  const count = kit.meshes.ball.primitives[0].attributes.POSITION.count;
  kit.meshes.ball.primitives[0].attributes.JOINTS_0 = putArray(blobs, new Uint16Array(4 * count), 4);
  kit.meshes.ball.primitives[0].attributes.WEIGHTS_0 = putArray(
    blobs,
    Float32Array.from({ length: 4 * count }, (_, i) => Number(i % 4 === 0)),
    4,
  );
  const binds = [0, -1].flatMap((up) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, up, 0, 1]);
  kit.skins.skin = {
    id: 'skin',
    name: 'skin',
    joints: ['low', 'high'],
    inverseBindMatrices: putArray(blobs, Float32Array.from(binds), 16),
  };
  kit.parts.ball = newPart({ id: 'ball', name: 'ball', mesh: 'ball', skin: 'skin' });
  return { kit, blobs };
}

function begin() {
  const { kit, blobs } = skinnedBall();
  const scene = new KitScene();
  scene.update(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  poser.update();
  scene.place(poser);
  const own = scene.meshesOf('ball')[0].geometry.getAttribute('skinWeight');
  const stroke = new BrushStroke(kit, blobs, scene, poser);
  const { geometry } = scene.meshesOf('ball')[0];
  const positions = geometry.getAttribute('position');
  /** Weight of `high` at each vertex, as it is drawn. */
  const drawn = () => {
    const [index, weight] = [geometry.getAttribute('skinIndex'), geometry.getAttribute('skinWeight')] as THREE.BufferAttribute[];
    return Array.from({ length: positions.count }, (_, v) =>
      [0, 1, 2, 3].reduce((sum, k) => sum + (index.array[4 * v + k] === 1 ? weight.array[4 * v + k] : 0), 0),
    );
  };
  const away = (v: number, x: number, y: number, z: number) =>
    Math.hypot(positions.getX(v) - x, positions.getY(v) - y, positions.getZ(v) - z);
  return { stroke, drawn, away, own, geometry, count: positions.count };
}

const SETTINGS: BrushSettings = { joint: 'high', mode: 'add', radius: 0.6, strength: 0.5, symmetric: false, locked: [] };

test('a stamp is drawn within its radius and nowhere else, strongest in its middle', () => {
  const { stroke, drawn, away, count } = begin();
  expect(Math.max(...drawn())).toBe(0);
  stroke.to([0, 1, 0], SETTINGS, null);
  const weights = drawn();
  for (let v = 0; v < count; v++) {
    if (away(v, 0, 1, 0) > 0.6) expect(weights[v]).toBe(0);
    else if (away(v, 0, 1, 0) < 0.55) expect(weights[v]).toBeGreaterThan(0);
  }
  const top = Array.from({ length: count }, (_, v) => v).filter((v) => away(v, 0, 1, 0) < 1e-6);
  for (const v of top) expect(weights[v]).toBeCloseTo(Math.max(...weights), 6);
  expect(stroke.changed).toBe(true);
});

test('vertices of one place, on both sides of a UV seam, get one weight', () => {
  const { stroke, drawn, away, count } = begin();
  stroke.to([1, 0, 0], SETTINGS, null);
  const weights = drawn();
  const twins = Array.from({ length: count }, (_, v) => v).filter((v) => away(v, 1, 0, 0) < 1e-6);
  expect(twins.length).toBeGreaterThan(1);
  expect(new Set(twins.map((v) => weights[v])).size).toBe(1);
  expect(weights[twins[0]]).toBeGreaterThan(0);
});

test('a quick drag leaves no gaps: all that is near its way is brushed, and nothing else', () => {
  const { stroke, drawn, away, count } = begin();
  const narrow = { ...SETTINGS, radius: 0.35 };
  stroke.to([-0.7, 0.8, 0], narrow, null);
  stroke.to([0.7, 0.8, 0], narrow, null);
  const weights = drawn();
  const steps = Array.from({ length: 57 }, (_, i) => (i - 28) / 40);
  let near = 0;
  for (let v = 0; v < count; v++) {
    const way = Math.min(...steps.map((x) => away(v, x, 0.8, 0)));
    if (way < 0.32) near++;
    if (way < 0.32) expect(weights[v]).toBeGreaterThan(0);
    else if (way > 0.36) expect(weights[v]).toBe(0);
  }
  expect(near).toBeGreaterThan(20);
});

test('with an eye only the side that looks at it is brushed', () => {
  const { stroke, drawn, away, count } = begin();
  stroke.to([0, 0, 0], { ...SETTINGS, radius: 1.5 }, [0, 1, 0]);
  const weights = drawn();
  for (let v = 0; v < count; v++) {
    if (away(v, 0, 1, 0) < 0.5) expect(weights[v]).toBeGreaterThan(0);
    if (away(v, 0, -1, 0) < 0.5) expect(weights[v]).toBe(0);
  }
});

test('drawing writes to arrays of its own, and every row still adds up to 1', () => {
  const { stroke, own, geometry, count } = begin();
  const before = Array.from(own.array);
  for (const height of [1, 0.5, 0]) stroke.to([0.2, height, 0.3], SETTINGS, null);
  expect(Array.from(own.array)).toEqual(before);
  const weight = geometry.getAttribute('skinWeight').array;
  for (let v = 0; v < count; v++) expect(weight[4 * v] + weight[4 * v + 1] + weight[4 * v + 2] + weight[4 * v + 3]).toBeCloseTo(1, 6);
});

test('a stroke beside the kit changes nothing', () => {
  const { stroke, drawn } = begin();
  stroke.to([5, 5, 5], SETTINGS, null);
  expect(stroke.changed).toBe(false);
  expect(Math.max(...drawn())).toBe(0);
});
