import * as THREE from 'three';
import { emptyKit, MemoryBlobs, newPart, putArray, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser, posedVertices } from '@itchkit/core/geometry';
import { setWeights, SOLVE_DEFAULTS, solveWeights, type JointLines } from '@itchkit/core/rig';
import { runCall } from '@itchkit/core/operations';
import { equipNode } from '@itchkit/core/node';
import { together, tube, type Surface } from '../core/src/tests/bodies';
import { heapDistances } from './heap-distances';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

/** A trunk, two arms that hang, two legs: five tubes of about so many vertices in all. */
function figure(vertices: number): Surface {
  const around = Math.round(Math.sqrt(vertices / 5 / 3));
  const rings = 3 * around;
  const limb = (radius: number, bottom: number, top: number, x: number) => tube(radius, bottom, top, rings, around, [x, 0]);
  return together(
    limb(0.15, 0.85, 1.75, 0),
    limb(0.05, 0.75, 1.45, 0.19),
    limb(0.05, 0.75, 1.45, -0.19),
    limb(0.08, 0, 0.9, 0.08),
    limb(0.08, 0, 0.9, -0.08),
  );
}

/** Twenty joints along the five tubes, four in each. */
function lines(): JointLines[] {
  const chain = (x: number, from: number, to: number, first: number, parent = 0): JointLines[] =>
    [0, 1, 2, 3].map((i) => ({
      parent: i === 0 ? parent : first + i - 1,
      lines: [x, from + ((to - from) * i) / 4, 0, x, from + ((to - from) * (i + 1)) / 4, 0],
    }));
  return [
    ...chain(0, 0.9, 1.7, 0, -1),
    ...chain(0.19, 1.42, 0.78, 4),
    ...chain(-0.19, 1.42, 0.78, 8),
    ...chain(0.08, 0.88, 0.03, 12),
    ...chain(-0.08, 0.88, 0.03, 16),
  ];
}

const solve = (surface: Surface) =>
  solveWeights(Float32Array.from(surface.positions), Uint32Array.from(surface.indices), lines(), SOLVE_DEFAULTS);

export const solveRow: Benchmark = {
  row: 'solve-weights',
  title: '50,000 vertices, 20 joints, 96³: the whole solve, against the ways alone with a binary heap (at most half as long again)',
  async run() {
    const body = figure(50_000);
    const positions = Float32Array.from(body.positions);
    const indices = Uint32Array.from(body.indices);
    const [ours, peer] = await paired(
      3,
      () => milliseconds(() => Promise.resolve(solve(body))),
      () => milliseconds(() => Promise.resolve(heapDistances(positions, indices, lines(), SOLVE_DEFAULTS.resolution))),
    );
    return rowOf('solve-weights', 'ms', ours, peer, 1.5);
  },
};

export const solveGrowth: Benchmark = {
  row: 'solve-growth',
  title: 'the solve of 100,000 vertices, against that of 25,000 (at most 5 times)',
  async run() {
    const [large, small] = [figure(100_000), figure(25_000)];
    const [ours, peer] = await paired(
      3,
      () => milliseconds(() => Promise.resolve(solve(large))),
      () => milliseconds(() => Promise.resolve(solve(small))),
    );
    return rowOf('solve-growth', 'ms', ours, peer, 5);
  },
};

/** The figure of 20,000 vertices with its weights and joints, as a kit. */
function skinnedKit(): { kit: Kit; blobs: MemoryBlobs; joints: string[] } {
  equipNode();
  const body = figure(20_000);
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Figure');
  kit.meshes.mesh = {
    id: 'mesh',
    name: 'mesh',
    primitives: [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from(body.positions), 3) },
        indices: putArray(blobs, Uint32Array.from(body.indices), 1),
      },
    ],
  };
  kit.parts.skin = newPart({ id: 'skin', name: 'skin', mesh: 'mesh' });
  const joints = lines().map((_, j) => `joint${j}`);
  lines().forEach(({ lines: [x, y, z], parent }, j) => {
    const above = parent < 0 ? [0, 0, 0] : lines()[parent].lines;
    kit.parts[joints[j]] = newPart({
      id: joints[j],
      name: joints[j],
      role: 'joint',
      parent: parent < 0 ? null : joints[parent],
      translation: [x - above[0], y - above[1], z - above[2]],
    });
  });
  const { joints: held, weights } = solve(body);
  const count = body.positions.length / 3;
  const call = {
    operation: setWeights.id,
    args: {
      joints,
      spans: [{ part: 'skin', primitive: 0, start: 0, count }],
      held: { joints: putArray(blobs, held, 4), weights: putArray(blobs, weights, 4) },
    },
  };
  return { kit: runCall(kit, call, blobs).kit, blobs, joints };
}

/** The same in three.js. */
function skinnedMesh(kit: Kit, blobs: MemoryBlobs, joints: string[]): { mesh: THREE.SkinnedMesh; bones: THREE.Bone[] } {
  const { attributes } = kit.meshes[kit.parts.skin.mesh!].primitives[0];
  const read = (sha: string) => blobs.get(sha).slice().buffer;
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(read(attributes.POSITION.blob)), 3));
  geometry.setAttribute('skinIndex', new THREE.BufferAttribute(new Uint16Array(read(attributes.JOINTS_0.blob)), 4));
  geometry.setAttribute('skinWeight', new THREE.BufferAttribute(new Float32Array(read(attributes.WEIGHTS_0.blob)), 4));
  const bones = joints.map(() => new THREE.Bone());
  const mesh = new THREE.SkinnedMesh(geometry);
  joints.forEach((id, j) => {
    const { translation, parent } = kit.parts[id];
    bones[j].position.fromArray(translation);
    (parent === null ? mesh : bones[joints.indexOf(parent)]).add(bones[j]);
  });
  mesh.updateMatrixWorld(true);
  mesh.bind(new THREE.Skeleton(bones));
  return { mesh, bones };
}

const FRAMES = 30;

export const skinRow: Benchmark = {
  row: 'skin-frame',
  title: 'a frame of a skin of 20,000 vertices, against three.js’s applyBoneTransform for the same vertices (two fifths of its time)',
  async run() {
    const { kit, blobs, joints } = skinnedKit();
    const { mesh, bones } = skinnedMesh(kit, blobs, joints);
    const poser = new Poser(flattenParts(kit));
    const { count } = mesh.geometry.attributes.position;
    const vertex = new THREE.Vector3();
    let frame = 0;
    let sum = 0;
    let posed: Float64Array | undefined;
    const ours = () => {
      frame++;
      joints.forEach((id) => (poser.pose.turn[3 * poser.flat.indexOf.get(id)!] = 10 * Math.sin(frame)));
      poser.update();
      posed = posedVertices(kit, blobs, kit.parts.skin, (id) => poser.worldOf(id), undefined, posed);
      sum += posed[0];
      return Promise.resolve();
    };
    const theirs = () => {
      frame++;
      bones.forEach((bone) => (bone.rotation.x = (10 * Math.sin(frame) * Math.PI) / 180));
      mesh.updateMatrixWorld(true);
      mesh.skeleton.update();
      for (let v = 0; v < count; v++) {
        vertex.fromBufferAttribute(mesh.geometry.attributes.position, v);
        mesh.applyBoneTransform(v, vertex);
        sum += vertex.x;
      }
      return Promise.resolve();
    };
    // Several at once: what collects garbage before each look takes longer than a frame.
    const several = (frameOf: () => Promise<void>) => async () => {
      const taken = await milliseconds(async () => {
        for (let i = 0; i < FRAMES; i++) await frameOf();
      });
      return taken / FRAMES;
    };
    const [a, b] = await paired(7, several(ours), several(theirs));
    if (!Number.isFinite(sum)) throw new Error('a vertex went astray');
    return rowOf('skin-frame', 'ms', a, b, 0.4);
  },
};
