import * as THREE from 'three';
import type { MemoryBlobs } from '@itchkit/core/document';
import { newMaterial, newPart, putArray, type Kit, type TextureSlot } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { chainKit } from '../../../core/src/tests/helpers';
import { KitScene } from './kit-scene';

const BITMAP = { width: 2, height: 2 } as ImageBitmap;
beforeEach(() => Object.assign(globalThis, { createImageBitmap: () => Promise.resolve(BITMAP) }));

const slot = (fields: Partial<TextureSlot> = {}): TextureSlot => ({ image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497, ...fields });

/** Two parts, one below the other, in a paint with a picture. */
function painted(texture: TextureSlot) {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 2, 0] }]);
  kit.images.img = { id: 'img', name: 'img', mediaType: 'image/png', blob: blobs.put(Uint8Array.of(1, 2)), bytes: 2, width: 2, height: 2 };
  kit.materials.paint = newMaterial({ id: 'paint', name: 'paint', baseColorTexture: texture });
  for (const mesh of Object.values(kit.meshes)) mesh.primitives[0].material = 'paint';
  return { kit, blobs };
}

/** The same with a skin over both. */
function skinned() {
  const { kit, blobs } = painted(slot());
  const { attributes } = kit.meshes.mesh_b.primitives[0];
  attributes.JOINTS_0 = putArray(blobs, new Uint16Array(16), 4);
  attributes.WEIGHTS_0 = putArray(
    blobs,
    Float32Array.from({ length: 16 }, (_, i) => Number(i % 4 === 0)),
    4,
  );
  const identity = Float32Array.from({ length: 16 }, (_, i) => Number(i % 5 === 0));
  kit.skins.skin = { id: 'skin', name: 'skin', joints: ['a'], inverseBindMatrices: putArray(blobs, identity, 16) };
  kit.parts.b.skin = 'skin';
  return { kit, blobs };
}

function shown(kit: Kit, blobs: MemoryBlobs): KitScene {
  const scene = new KitScene();
  scene.update(kit, blobs);
  return scene;
}

const mapOf = (scene: KitScene, part = 'a') => (scene.meshesOf(part)[0].material as THREE.MeshStandardMaterial).map!;

test.each([
  [10497, THREE.RepeatWrapping],
  [33071, THREE.ClampToEdgeWrapping],
  [33648, THREE.MirroredRepeatWrapping],
])('a texture that wraps by %i is drawn so', (wrap, expected) => {
  const { kit, blobs } = painted(slot({ wrapS: wrap, wrapT: 10497 }));
  const map = mapOf(shown(kit, blobs));
  expect([map.wrapS, map.wrapT]).toEqual([expected, THREE.RepeatWrapping]);
});

test('a picture is decoded once for all slots that read it, each in its own way, and is drawn when it arrives', async () => {
  const decode = jest.fn(() => Promise.resolve(BITMAP));
  Object.assign(globalThis, { createImageBitmap: decode });
  const { kit, blobs } = painted(slot({ transform: { offset: [0.5, 0], rotation: 1, scale: [2, 3] }, texCoord: 1 }));
  kit.materials.paint.normalTexture = slot();
  const scene = new KitScene();
  const drawn = new Promise<void>((resolve) => (scene.onChange = resolve));
  scene.update(kit, blobs);
  await drawn;
  const material = scene.meshesOf('a')[0].material as THREE.MeshStandardMaterial;
  expect(decode).toHaveBeenCalledTimes(1);
  expect(material.map!.image).toBe(BITMAP);
  expect(material.normalMap!.image).toBe(BITMAP);
  expect([material.map!.channel, material.map!.repeat.toArray(), material.normalMap!.channel]).toEqual([1, [2, 3], 0]);
  expect([material.map!.colorSpace, material.normalMap!.colorSpace]).toEqual([THREE.SRGBColorSpace, THREE.NoColorSpace]);
});

test('skeletons and textures that are no longer drawn leave the graphics memory', () => {
  const { kit, blobs } = skinned();
  const scene = shown(kit, blobs);
  const skeletonOf = () => (scene.meshesOf('b')[0] as THREE.SkinnedMesh).skeleton;
  const freed = jest.spyOn(THREE.Skeleton.prototype, 'dispose');
  const first = skeletonOf();
  const texture = jest.fn();
  mapOf(scene).addEventListener('dispose', texture);
  // Another skin of the same joints, as after every change of weights.
  scene.update({ ...kit, skins: { skin: { ...kit.skins.skin } } }, blobs);
  expect(freed.mock.contexts).toEqual([first]);
  expect(texture).not.toHaveBeenCalled();
  const second = skeletonOf();
  scene.update(
    { ...kit, skins: { skin: { ...kit.skins.skin } }, materials: { paint: { ...kit.materials.paint, baseColorTexture: null } } },
    blobs,
  );
  expect(texture).toHaveBeenCalledTimes(1);
  const third = skeletonOf();
  scene.dispose();
  expect(freed.mock.contexts).toEqual([first, second, third]);
  freed.mockRestore();
});

test('what did not change is not built again; what is hidden is not drawn; what goes, goes', () => {
  const { kit, blobs } = painted(slot());
  const scene = shown(kit, blobs);
  const [mesh] = scene.meshesOf('b');
  scene.update({ ...kit, parts: { ...kit.parts, b: { ...kit.parts.b, name: 'other', hidden: true } } }, blobs);
  expect(scene.meshesOf('b')[0]).toBe(mesh);
  expect(mesh.visible).toBe(false);
  scene.update({ ...kit, parts: { a: kit.parts.a } }, blobs);
  expect(scene.groupOf('b')).toBeUndefined();
  expect(scene.allMeshes()).toHaveLength(1);
});

test('parts stand where the poser has them, and hang as they do in the kit', () => {
  const { kit, blobs } = painted(slot());
  kit.parts.c = newPart({ id: 'c', name: 'c', parent: 'b', translation: [1, 0, 0] });
  const scene = shown(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  poser.pose.offset.set([0, 0, 5], 3 * poser.flat.indexOf.get('b')!);
  poser.update();
  scene.place(poser);
  expect(scene.groupOf('c')!.getWorldPosition(new THREE.Vector3()).toArray()).toEqual([1, 2, 5]);
  const moved = { ...kit, parts: { ...kit.parts, c: { ...kit.parts.c, parent: null } } };
  scene.update(moved, blobs);
  scene.place(new Poser(flattenParts(moved)));
  expect(scene.groupOf('c')!.getWorldPosition(new THREE.Vector3()).toArray()).toEqual([1, 0, 0]);
});

test('lines and points are drawn beside triangles, without normals faces are flat, and both go with their part', () => {
  const { kit, blobs } = painted(slot());
  const line = { POSITION: putArray(blobs, Float32Array.from([0, 0, 0, 1, 0, 0]), 3) };
  kit.meshes.mesh_a.strokes = [{ mode: 'lines', material: null, attributes: line, indices: putArray(blobs, Uint32Array.of(0, 1), 1) }];
  delete kit.meshes.mesh_b.primitives[0].attributes.NORMAL;
  kit.meshes.mesh_b.primitives[0].material = null;
  const scene = shown(kit, blobs);
  const strokes = scene.groupOf('a')!.children.filter((one) => one instanceof THREE.LineSegments);
  expect(strokes).toHaveLength(1);
  expect((scene.meshesOf('b')[0].material as THREE.MeshStandardMaterial).flatShading).toBe(true);
  const gone = jest.fn();
  (strokes[0].material as THREE.Material).addEventListener('dispose', gone);
  scene.update({ ...kit, parts: {} }, blobs);
  expect(gone).toHaveBeenCalledTimes(1);
});

test('a skinned part of a package in another space is drawn where its parts are, once', () => {
  const { kit, blobs } = skinned();
  const scene = shown(kit, blobs);
  // Left-handed, in centimetres.
  scene.root.matrixAutoUpdate = false;
  scene.root.matrix.makeScale(-0.01, 0.01, 0.01);
  const poser = new Poser(flattenParts(kit));
  poser.pose.offset.set([3, 0, 0]);
  poser.update();
  scene.place(poser);
  const mesh = scene.meshesOf('b')[0] as THREE.SkinnedMesh;
  mesh.skeleton.update();
  const first = new THREE.Vector3().fromBufferAttribute(mesh.geometry.getAttribute('position'), 0);
  const drawn = mesh.localToWorld(mesh.applyBoneTransform(0, first.clone()));
  const wanted = first
    .clone()
    .add(new THREE.Vector3(3, 0, 0))
    .multiply(new THREE.Vector3(-0.01, 0.01, 0.01));
  expect(drawn.distanceTo(wanted)).toBeLessThan(1e-9);
  // Its faces are seen from where they are seen in its own space.
  expect(mesh.matrixWorld.determinant()).toBeLessThan(0);
});
