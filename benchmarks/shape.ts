import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import * as THREE from 'three';
import { MemoryBlobs, putArray, readArray, type Kit, type Mesh } from '@itchkit/core/document';
import { loosePieces, meshPlaces } from '@itchkit/core/geometry';
import { readFile } from '@itchkit/core/intake';
import { loadSimplifier, simplifyMeshes } from '@itchkit/core/shape';
import { runCall } from '@itchkit/core/operations';
import { equipNode } from '@itchkit/core/node';
import { nearestHit } from '../web/src/bench/ray-pick';
import { median, milliseconds, paired, rowOf, type Benchmark } from './row';
import { seaGlb } from './sea-glb';

async function sea(columns: number, rows: number): Promise<{ kit: Kit; mesh: Mesh; blobs: MemoryBlobs }> {
  equipNode();
  const blobs = new MemoryBlobs();
  const kit = await readFile(await seaGlb(columns, rows), 'sea.glb', blobs);
  return { kit, mesh: Object.values(kit.meshes)[0], blobs };
}

export const simplify: Benchmark = {
  row: 'simplify',
  title: '1,000,000 triangles to 20,000, with the new arrays hashed as blobs, against meshoptimizer called directly',
  async run() {
    await loadSimplifier();
    const { mesh, blobs } = await sea(1000, 500);
    const { attributes, indices } = mesh.primitives[0];
    const [positions, normals] = [attributes.POSITION, attributes.NORMAL].map((accessor) => readArray<Float32Array>(blobs, accessor));
    const list = readArray<Uint32Array>(blobs, indices);
    const [ours, peer] = await paired(
      5,
      () =>
        milliseconds(() =>
          Promise.resolve(simplifyMeshes([mesh], [1], [1], { triangles: 20_000 }, { keepBorders: true, showsPicture: () => false }, blobs)),
        ),
      () =>
        milliseconds(() =>
          Promise.resolve(
            MeshoptSimplifier.simplifyWithAttributes(list, positions, 3, normals, 3, [0.35, 0.35, 0.35], null, 60_000, 1, [
              'LockBorder',
              'Permissive',
            ]),
          ),
        ),
    );
    return rowOf('simplify', 'ms', ours, peer, 1.3);
  },
};

/** A pick is to be felt at once. */
const MOST_PICK_MS = 5;

export const rayPick: Benchmark = {
  row: 'ray-pick',
  title: `1,000,000 triangles: a pick on the bench once its tree is built (under ${MOST_PICK_MS} ms besides), against three.js looking at every triangle`,
  async run() {
    const { mesh, blobs } = await sea(1000, 500);
    const { attributes, indices } = mesh.primitives[0];
    const geometry = new THREE.BufferGeometry().setAttribute(
      'position',
      new THREE.BufferAttribute(readArray<Float32Array>(blobs, attributes.POSITION), 3),
    );
    geometry.setIndex(new THREE.BufferAttribute(readArray<Uint32Array>(blobs, indices), 1));
    const object = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial());
    object.updateMatrixWorld();
    let n = 0;
    const caster = () => {
      n++;
      return new THREE.Raycaster(
        new THREE.Vector3(50 + 40 * Math.sin(n), 8, 25 + 20 * Math.cos(2 * n)),
        new THREE.Vector3(0.2 * Math.sin(3 * n), -1, 0.1).normalize(),
      );
    };
    nearestHit(caster(), [object]);
    const [ours, peer] = await paired(
      25,
      () => milliseconds(() => Promise.resolve(nearestHit(caster(), [object]))),
      () => milliseconds(() => Promise.resolve(THREE.Mesh.prototype.raycast.call(object, caster(), []))),
    );
    const row = rowOf('ray-pick', 'ms', ours, peer, 0.1);
    return { ...row, holds: row.holds && median(ours) < MOST_PICK_MS };
  },
};

/** The sea in so many loose strips, by leaving out rows of triangles. */
async function strips(columns: number, rows: number, count: number): Promise<{ kit: Kit; part: string; blobs: MemoryBlobs }> {
  const { kit, mesh, blobs } = await sea(columns, rows);
  const [primitive] = mesh.primitives;
  const every = Math.floor(rows / count);
  const kept = readArray<Uint32Array>(blobs, primitive.indices).filter((_, i) => Math.floor(i / (6 * columns)) % every !== 0);
  const next = { ...kit, meshes: { [mesh.id]: { ...mesh, primitives: [{ ...primitive, indices: putArray(blobs, kept, 1) }] } } };
  return { kit: next, part: Object.values(kit.parts).find((part) => part.mesh === mesh.id)!.id, blobs };
}

export const splitLoose: Benchmark = {
  row: 'split-loose',
  title: 'some 500,000 triangles in 20 loose strips split into parts, against 50,000 (linear would be 10)',
  async run() {
    const [large, small] = [await strips(500, 520, 20), await strips(160, 170, 20)];
    const call = (one: typeof large) => () =>
      milliseconds(() =>
        Promise.resolve(
          runCall(one.kit, { operation: 'shape.split-loose', args: { part: one.part, place: 'below', pivot: 'keep' } }, one.blobs),
        ),
      );
    const [ours, peer] = await paired(7, call(large), call(small));
    if (loosePieces(meshPlaces(Object.values(large.kit.meshes)[0], large.blobs)).pieces !== 20)
      throw new Error('The sea does not lie in 20 strips');
    return rowOf('split-loose', 'ms', ours, peer, 14);
  },
};
