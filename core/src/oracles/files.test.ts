import { DOMParser } from '@xmldom/xmldom';
import { strToU8 } from 'fflate';
import * as THREE from 'three';
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js';
import { MemoryBlobs } from '../document';
import { readFile } from '../intake';
import { writeGlb } from '../ship';
import { tailCollada, tailGlb } from '../tests/fixtures';
import { ThreePlayer } from './three-player';

const TIMES = Array.from({ length: 20 }, (_, i) => (i + 0.37) / 20.4);
/** What baking may be off by, and a little for the sets' rounding, metres. */
const WITHIN = 0.001 + 1e-6;

type Points = number[][];
const triples = (numbers: readonly number[]): Points =>
  Array.from({ length: numbers.length / 3 }, (_, i) => numbers.slice(3 * i, 3 * i + 3));

/** The greatest way from a point of one set to the nearest of the other, either way: nodes may have another order in another file. */
function between(a: Points, b: Points): number {
  const oneWay = (from: Points, to: Points) =>
    Math.max(...from.map((p) => Math.min(...to.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])))));
  return Math.max(oneWay(a, b), oneWay(b, a));
}

const pointsOf = (player: ThreePlayer, clip: string | null, time: number) => triples([...player.at(clip, time).values()].flat());

/** The file as it was read, written again, in the same player. */
async function again(bytes: Uint8Array, name: string): Promise<ThreePlayer> {
  const blobs = new MemoryBlobs();
  const kit = await readFile(bytes, name, blobs);
  return ThreePlayer.of((await writeGlb(kit, blobs)).bytes);
}

test('a GLB with skin, morph target and clips: the written file plays as the one that was read, at rest and at 20 times', async () => {
  const bytes = await tailGlb();
  const [before, after] = [await ThreePlayer.of(bytes), await again(bytes, 'tail.glb')];
  expect(between(pointsOf(before, null, 0), pointsOf(after, null, 0))).toBeLessThan(1e-6);
  for (const time of TIMES) expect(between(pointsOf(before, 'wag', time), pointsOf(after, 'wag', time))).toBeLessThan(WITHIN);
});

test('COLLADA with skin and clip, z up in centimetres: the written file plays as the other reader plays it', async () => {
  Object.assign(globalThis, { DOMParser, self: globalThis });
  // The file has relative names alone, so its base is not looked at.
  for (const method of ['warn', 'debug'] as const) jest.spyOn(console, method).mockImplementation(() => undefined);
  const { scene } = new ColladaLoader().parse(tailCollada(), '')!;
  const mixer = new THREE.AnimationMixer(scene);
  mixer.clipAction(scene.animations[0]).play();
  const there = (): Points => {
    scene.updateMatrixWorld(true);
    const out: Points = [];
    scene.traverse((object) => {
      const mesh = object as THREE.Mesh;
      if (!mesh.isMesh) return;
      for (let i = 0; i < mesh.geometry.getAttribute('position').count; i++)
        out.push(mesh.localToWorld(mesh.getVertexPosition(i, new THREE.Vector3())).toArray());
    });
    return out;
  };
  const after = await again(strToU8(tailCollada()), 'tail.dae');
  for (const time of TIMES) {
    mixer.setTime(time);
    expect(between(there(), pointsOf(after, 'wag', time))).toBeLessThan(WITHIN);
  }
});
