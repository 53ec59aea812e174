import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import {
  callOf,
  emptyKit,
  MemoryBlobs,
  newPart,
  putArray,
  type Binding,
  type BindingRow,
  type Kit,
  type Vec3,
} from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { runCall } from '@itchkit/core/operations';
import type { Variable } from '@itchkit/core/rulebook';
import { poseKit, REST, sweepAll, type Lever } from '@itchkit/core/trial';
import { addBinding, addBindingPose, solveLink } from '@itchkit/core/wiring';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

const row = (value: number, offset: Vec3, turn: Vec3): BindingRow => ({ value, offset, turn, size: [1, 1, 1] });

/** A lookup as anyone would write it: rows sorted once, the first one above the value, each number between the two. */
function plainLookup(binding: Binding): (value: number) => number[] {
  const sorted = [...binding.rows].sort((a, b) => a.value - b.value);
  const numbers = sorted.map(({ offset, turn, size }) => [...offset, ...turn, ...size]);
  return (value) => {
    const v = Math.min(sorted.at(-1)!.value, Math.max(sorted[0].value, value));
    const at = sorted.findIndex((one) => one.value > v);
    const i = at < 0 ? sorted.length - 2 : at - 1;
    const u = (v - sorted[i].value) / (sorted[i + 1].value - sorted[i].value);
    return numbers[i].map((a, k) => a + (numbers[i + 1][k] - a) * u);
  };
}

export const bindingsEvaluate: Benchmark = {
  row: 'bindings',
  title: '200 bindings of eight rows at 10,000 values, into a pose, against a plain lookup in tables sorted beforehand',
  async run() {
    const bindings: Binding[] = Array.from({ length: 200 }, (_, b) => ({
      id: `b${b}`,
      part: `p${b}`,
      variable: 'v',
      index: b,
      outside: 'clamp',
      rows: [0, -4, -3, -2, 1, 2, 3, 4].map((value) => row(value, [0, value * b, 0], [value * value, 0, b])),
    }));
    const kit = emptyKit('Bindings');
    for (const { part } of bindings) kit.parts[part] = newPart({ id: part, name: part });
    const poser = new Poser(flattenParts(kit));
    const plain = bindings.map(plainLookup);
    let sum = 0;
    const [ours, peer] = await paired(
      5,
      () =>
        milliseconds(() => {
          for (let i = 0; i < 10_000; i++) {
            poser.reset();
            const value = -5 + i / 1000;
            for (let b = 0; b < bindings.length; b++) addBindingPose(bindings[b], value, b, poser.pose);
          }
          return Promise.resolve();
        }),
      () =>
        milliseconds(() => {
          for (let i = 0; i < 10_000; i++) for (const look of plain) sum += look(-5 + i / 1000)[3];
          return Promise.resolve(sum);
        }),
    );
    return rowOf('bindings', 'ms', ours, peer, 1);
  },
};

const PARTS = 60;
const VALUES = 40;

/** A ball of this many triangles, for a part of its own. */
function putBall(kit: Kit, blobs: MemoryBlobs, id: string): THREE.BufferGeometry {
  const ball = new THREE.SphereGeometry(0.5, 24, 16);
  const indices = Uint32Array.from(ball.index!.array);
  kit.meshes[id] = {
    id,
    name: id,
    primitives: [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from(ball.attributes.position.array), 3) },
        indices: putArray(blobs, indices, 1),
      },
    ],
  };
  return ball;
}

export const sweepCrossings: Benchmark = {
  row: 'sweep',
  title: `${PARTS} parts through ${VALUES} values: parts that run into each other, against three-mesh-bvh over every pair at every value`,
  async run() {
    const blobs = new MemoryBlobs();
    const kit = emptyKit('Sweep');
    kit.parts.base = newPart({ id: 'base', name: 'base' });
    const balls: THREE.BufferGeometry[] = [];
    // A slider among standing parts, some of which it meets.
    for (let i = 0; i < PARTS; i++) {
      const id = `p${i}`;
      balls.push(putBall(kit, blobs, id));
      const at: Vec3 = i === 0 ? [0, 0, 0] : [1.4 * Math.ceil(i / 2), i % 2 === 0 ? 0.6 : -1.3, i % 7 === 0 ? 0.2 : 1.2];
      kit.parts[id] = newPart({ id, name: id, parent: 'base', mesh: id, translation: at, order: i });
    }
    const variable: Variable = {
      name: 'slide',
      title: '',
      group: '',
      unit: 'm',
      min: -20,
      max: 20,
      neutral: 0,
      indices: 0,
      kind: 'actual',
      positive: '',
    };
    const add = callOf(addBinding, {
      id: 'b',
      part: 'p0',
      variable: 'slide',
      index: null,
      outside: 'clamp',
      rows: [row(0, [0, 0, 0], [0, 0, 0]), row(-20, [-20, 0, 0], [0, 0, 0]), row(20, [20, 0, 0], [0, 0, 0])],
    });
    const bound = runCall(kit, add, blobs).kit;
    const levers: Lever[] = [{ key: 'slide', variable, index: null, bindings: [bound.bindings.b], switches: [] }];
    const trees = balls.map((ball) => new MeshBVH(ball));
    const poser = new Poser(flattenParts(bound));
    const everyPair = () => {
      let met = 0;
      for (let v = 0; v <= VALUES; v++) {
        poseKit(poser, bound, blobs, { ...REST, levers: { slide: -20 + v } }, [variable]);
        const world = balls.map((_, i) => new THREE.Matrix4().fromArray(poser.worldOf(`p${i}`)));
        for (let i = 0; i < PARTS; i++)
          for (let j = i + 1; j < PARTS; j++)
            if (trees[i].intersectsGeometry(balls[j], world[i].clone().invert().multiply(world[j]))) met++;
      }
      return met;
    };
    const [ours, peer] = await paired(
      3,
      () => milliseconds(() => Promise.resolve(sweepAll(bound, blobs, levers))),
      () => milliseconds(() => Promise.resolve(everyPair())),
    );
    // Ours finds each first contact to a millionth of a step besides.
    return rowOf('sweep', 'ms', ours, peer, 1.25);
  },
};

const LINKED = 500;

export const linkClosure: Benchmark = {
  row: 'links',
  title: `two links of a jib worked out as a table, against halving the angle of one at ${LINKED} values with three.js (40 times each)`,
  async run() {
    const blobs = new MemoryBlobs();
    const kit = emptyKit('Links');
    kit.parts.base = newPart({ id: 'base', name: 'base' });
    kit.parts.jib = newPart({ id: 'jib', name: 'jib', parent: 'base' });
    kit.parts.stay = newPart({ id: 'stay', name: 'stay', parent: 'jib', translation: [2, 0, 0] });
    kit.parts.arm = newPart({ id: 'arm', name: 'arm', parent: 'base', translation: [-1, 1, 0] });
    const bound = runCall(
      kit,
      callOf(addBinding, {
        id: 'b',
        part: 'jib',
        variable: 'luff',
        index: null,
        outside: 'clamp',
        rows: [row(0, [0, 0, 0], [0, 0, 0]), row(-30, [0, 0, 0], [0, 0, -30]), row(30, [0, 0, 0], [0, 0, 30])],
      }),
      blobs,
    ).kit;
    const link = {
      id: 'l',
      kind: 'meet' as const,
      parts: ['stay', 'arm'],
      axes: [2 as const, 2 as const],
      at: [-1.2, 1.9, 0] as Vec3,
      on: null,
      variable: 'luff',
      index: null,
      min: -30,
      max: 30,
      neutral: 0,
    };
    const jib = new THREE.Object3D();
    const stay = new THREE.Object3D();
    stay.position.set(2, 0, 0);
    jib.add(stay);
    const end = new THREE.Vector3();
    const hinge = new THREE.Vector3(-1, 1, 0);
    const reach = new THREE.Vector3(0.8, 1.9, 0).distanceTo(hinge);
    const halving = () => {
      let sum = 0;
      for (let i = 0; i < LINKED; i++) {
        jib.rotation.z = THREE.MathUtils.degToRad(-30 + (60 * i) / (LINKED - 1));
        let [low, high] = [-1.5, 1.5];
        for (let n = 0; n < 40; n++) {
          const middle = (low + high) / 2;
          stay.rotation.z = middle;
          jib.updateMatrixWorld(true);
          if (end.set(-1.2, 1.9, 0).applyMatrix4(stay.matrixWorld).distanceTo(hinge) < reach) high = middle;
          else low = middle;
        }
        sum += low;
      }
      return sum;
    };
    const [ours, peer] = await paired(
      7,
      () => milliseconds(() => Promise.resolve(solveLink(bound, link))),
      () => milliseconds(() => Promise.resolve(halving())),
    );
    // Ours is refined until it holds between its values, too, and thinned.
    return rowOf('links', 'ms', ours, peer, 3);
  },
};
