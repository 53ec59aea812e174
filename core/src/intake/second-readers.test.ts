import { DOMParser } from '@xmldom/xmldom';
import { WebIO } from '@gltf-transform/core';
import { strFromU8, strToU8, zipSync } from 'fflate';
import * as THREE from 'three';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { checkKit, MemoryBlobs, type Kit } from '../document';
import { flattenParts, kitCounts, Poser, restBounds, restWorlds } from '../geometry';
import { compileClip, sampleClip } from '../motion';
import { worldVertices } from '../tests/helpers';
import { sailFrame, tailCollada, tailGlb, tailMesh, WALKER_BVH } from '../tests/fixtures';
import { readFile } from './read-file';

/** three.js's loaders as readers of another house: what they make of a file has to be what we make of it. */
const blobs = new MemoryBlobs();
const read = async (text: string | Uint8Array, name: string): Promise<Kit> =>
  checkKit(await readFile(typeof text === 'string' ? strToU8(text) : text, name, blobs));

beforeAll(() => {
  Object.assign(globalThis, { DOMParser, self: globalThis });
  // The file has relative names alone, so its base is not looked at.
  for (const method of ['warn', 'debug'] as const) jest.spyOn(console, method).mockImplementation(() => undefined);
});

/** Vertices of every mesh under an object in the world, skins and morphs applied, as a set of rounded points. */
function pointsOf(root: THREE.Object3D): Set<string> {
  root.updateMatrixWorld(true);
  const points = new Set<string>();
  root.traverse((object) => {
    const mesh = object as THREE.Mesh;
    if (!mesh.isMesh) return;
    const v = new THREE.Vector3();
    for (let i = 0; i < mesh.geometry.getAttribute('position').count; i++) {
      mesh.getVertexPosition(i, v);
      mesh.localToWorld(v);
      points.add(round([v.x, v.y, v.z]));
    }
  });
  return points;
}

/** Vertices at a time of a clip, the end itself too. */
const posedAt = (kit: Kit, clip: string, time: number) =>
  worldVertices({ ...kit, clips: { [clip]: { ...kit.clips[clip], loop: 'hold' } } }, blobs, clip, time);

const round = (v: number[]) => v.map((value) => (Math.round(value * 1e4) / 1e4 + 0).toFixed(4)).join(' ');
const ours = (vertices: number[]) =>
  new Set(Array.from({ length: vertices.length / 3 }, (_, i) => round(vertices.slice(3 * i, 3 * i + 3))));

function trianglesOf(root: THREE.Object3D): number {
  let triangles = 0;
  root.traverse((object) => {
    const { geometry } = object as THREE.Mesh;
    if ((object as THREE.Mesh).isMesh) triangles += (geometry.index?.count ?? geometry.getAttribute('position').count) / 3;
  });
  return triangles;
}

test.each([0, 0.2, 0.5, 0.85, 1])('glTF with skin and morph target at %s s', async (time) => {
  const bytes = await tailGlb();
  const kit = await read(bytes, 'tail.glb');
  const { scene, animations } = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
  const mixer = new THREE.AnimationMixer(scene);
  mixer.clipAction(animations.find((clip) => clip.name === 'wag')!).play();
  mixer.setTime(time === 1 ? 0.999999 : time);
  const clip = Object.values(kit.clips).find((one) => one.name === 'wag')!;
  expect(ours(posedAt(kit, clip.id, time))).toEqual(pointsOf(scene));
});

test.each([0, 0.25, 0.5, 0.9])('COLLADA with skin and animation at %s s, z up in centimetres', async (time) => {
  const kit = await read(tailCollada(), 'tail.dae');
  const { scene } = new ColladaLoader().parse(tailCollada(), '')!;
  const animations = scene.animations;
  const mixer = new THREE.AnimationMixer(scene);
  mixer.clipAction(animations[0]).play();
  mixer.setTime(time);
  const [clip] = Object.values(kit.clips);
  expect(kitCounts(kit).triangles).toBe(trianglesOf(scene));
  expect(ours(posedAt(kit, clip.id, time))).toEqual(pointsOf(scene));
});

test('COLLADA and glTF of the same tail are the same thing', async () => {
  const a = await read(tailCollada(), 'tail.dae');
  const b = await read(await tailGlb(), 'tail.glb');
  for (const mesh of Object.values(b.meshes)) mesh.targets![0].weight = 0;
  expect(ours(worldVertices(a, blobs))).toEqual(ours(worldVertices(b, blobs)));
  expect(a.source!.space).toEqual({ metresPerUnit: 0.01, up: '+z', forward: '-y', handedness: 'right' });
  const [material] = Object.values(a.materials);
  expect([material.name, material.alphaMode, material.baseColor[3]]).toEqual(['hide', 'BLEND', 0.5]);
});

/** The same walk with its root at the origin and its height in the channels alone, as many files have it. */
const HUNG_BVH = WALKER_BVH.replace('OFFSET 0.0 90.0 0.0', 'OFFSET 0 0 0').replace(
  /^(-?[\d.]+) (-?[\d.]+) (?=.*\d.* .* .* .* .* .* .*$)/gm,
  (_, x: string, y: string) => `${x} ${Number(y) + 90} `,
);

test('BVH: a skeleton that hangs below the origin at rest is stood on the ground', async () => {
  const kit = await read(HUNG_BVH, 'hung.bvh');
  const heights = [...restWorlds(kit).values()].map((world) => world[13]);
  expect(Math.min(...heights)).toBeCloseTo(0, 6);
  expect(kit.source!.notes.some(({ code }) => code === 'stood-up')).toBe(true);
});

test.each([0, 1, 2, 3].flatMap((frame) => [WALKER_BVH, HUNG_BVH].map((text) => [frame, text] as const)))(
  'BVH: every joint of frame %s stands where the other reader puts it',
  async (frame, text) => {
    const kit = await read(text, 'walker.bvh');
    const { skeleton, clip } = new BVHLoader().parse(text);
    const root = skeleton.bones[0];
    const mixer = new THREE.AnimationMixer(root);
    mixer.clipAction(clip).play();
    // The very end is the beginning again, to that player.
    mixer.setTime(frame * 0.0333333 - (frame === 3 ? 1e-7 : 0));
    root.updateMatrixWorld(true);
    const poser = new Poser(flattenParts(kit));
    sampleClip(compileClip(Object.values(kit.clips)[0], poser.flat, blobs), frame * 0.0333333, poser.pose);
    poser.update();
    const mine = poser.flat.ids.map((id) => round([...poser.worldOf(id).slice(12, 15)].map((value) => value / 100)));
    expect(mine).toEqual(skeleton.bones.map((bone) => round(bone.getWorldPosition(new THREE.Vector3()).divideScalar(100).toArray())));
    expect(Object.values(kit.parts).map((part) => part.name)).toEqual(['Hip', 'Left Knee', 'Left Knee_tip', 'Chest', 'Chest_tip']);
  },
);

test('OBJ, PLY and STL: triangles and points', async () => {
  const tail = tailMesh();
  const obj = sailFrame(0.4);
  const objThere = new OBJLoader().parse(obj);
  const objHere = await read(obj, 'sail.obj');
  expect(kitCounts(objHere).triangles).toBe(trianglesOf(objThere));
  expect(ours(worldVertices(objHere, blobs))).toEqual(pointsOf(objThere));

  const faces = Array.from({ length: tail.indices.length / 3 }, (_, i) => tail.indices.slice(3 * i, 3 * i + 3));
  const rows = Array.from({ length: 16 }, (_, i) => tail.positions.slice(3 * i, 3 * i + 3));
  const ply = [
    'ply',
    'format ascii 1.0',
    'element vertex 16',
    'property float x',
    'property float y',
    'property float z',
    'element face 24',
    'property list uchar int vertex_indices',
    'end_header',
    ...rows.map((row) => row.join(' ')),
    ...faces.map((face) => `3 ${face.join(' ')}`),
    '',
  ].join('\n');
  const plyHere = await read(ply, 'tail.ply');
  const plyThere = new THREE.Mesh(new PLYLoader().parse(ply));
  expect(kitCounts(plyHere).triangles).toBe(trianglesOf(plyThere));
  expect(ours(worldVertices(plyHere, blobs))).toEqual(pointsOf(plyThere));

  const stl = `solid tail\n${faces.map((face) => `facet normal 0 0 0\nouter loop\n${face.map((i) => `vertex ${rows[i].join(' ')}`).join('\n')}\nendloop\nendfacet`).join('\n')}\nendsolid tail\n`;
  const stlHere = await read(stl, 'tail.stl');
  const stlThere = new THREE.Mesh(new STLLoader().parse(stl));
  expect(kitCounts(stlHere).triangles).toBe(trianglesOf(stlThere));
  expect(ours(worldVertices(stlHere, blobs))).toEqual(pointsOf(stlThere));
});

test('numbered frames: the morphed mesh at each frame is the frame itself', async () => {
  const files = Object.fromEntries(
    [1, 2, 3, 4].flatMap((n) => [
      [`furl${String(n).padStart(2, '0')}.obj`, strToU8(sailFrame(n))],
      [`wave_${n}.obj`, strToU8(sailFrame(n / 3))],
    ]),
  );
  const kit = await read(zipSync({ ...files, 'sail.obj': strToU8(sailFrame(0)) }), 'sail.zip');
  expect(kit.source!.format).toBe('frames');
  expect(Object.values(kit.clips).map((clip) => [clip.name, clip.lengthSeconds])).toEqual([
    ['furl', 0.1],
    ['wave', 0.1],
  ]);
  expect(Object.values(kit.meshes)[0].targets!.map((target) => target.name)).toHaveLength(8);
  for (const clip of Object.values(kit.clips)) {
    for (const n of [1, 2, 3, 4]) {
      const expected = await read(sailFrame(clip.name === 'furl' ? n : n / 3), 'frame.obj');
      expect(ours(posedAt(kit, clip.id, (n - 1) / 30))).toEqual(ours(worldVertices(expected, blobs)));
    }
  }
  expect(restBounds(kit, blobs)).toEqual(restBounds(await read(sailFrame(0), 'sail.obj'), blobs));
});

test('as many frames as sets have: more morph targets than a matrix has numbers', async () => {
  const files = Object.fromEntries(
    Array.from({ length: 48 }, (_, i) => [
      `${i < 24 ? 'furl' : 'wave'}${String((i % 24) + 1).padStart(2, '0')}.obj`,
      strToU8(sailFrame(i / 5)),
    ]),
  );
  const kit = await read(zipSync(files), 'sail.zip');
  expect(Object.values(kit.clips).map((clip) => [clip.name, clip.tracks[0].kind === 'samples' && clip.tracks[0].values.size])).toEqual([
    ['furl', 47],
    ['wave', 47],
  ]);
  const wave = Object.values(kit.clips)[1];
  expect(ours(posedAt(kit, wave.id, 10 / 30))).toEqual(ours(worldVertices(await read(sailFrame(34 / 5), 'frame.obj'), blobs)));
});

test('the same tail through glTF written by another house, with data outside', async () => {
  const bytes = await tailGlb();
  const { json, resources } = await new WebIO().writeJSON(await new WebIO().readBinary(bytes), { basename: 'tail' });
  const zip = zipSync({
    'pool/tail.gltf': strToU8(JSON.stringify(json)),
    ...Object.fromEntries(Object.entries(resources).map(([name, data]) => [`pool/${name}`, data])),
  });
  const outside = await read(zip, 'tail.zip');
  const inside = await read(bytes, 'tail.glb');
  expect(ours(worldVertices(outside, blobs))).toEqual(ours(worldVertices(inside, blobs)));
  expect(strFromU8(zip.subarray(0, 2))).toBe('PK');
});
