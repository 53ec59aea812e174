import * as THREE from 'three';
import { callOf, emptyKit, MemoryBlobs, newPart, putArray, type Clip, type Id, type Kit, type SampleTrack } from '@itchkit/core/document';
import { flattenParts, newPose, Poser, resetPose, type Pose } from '@itchkit/core/geometry';
import { compileClip, findLoops, poseDistances, poseRows, sampleClip, thinTracks, type PoseRows } from '@itchkit/core/motion';
import { runCall } from '@itchkit/core/operations';
import { equipNode } from '@itchkit/core/node';
import { milliseconds, paired, rowOf, type Benchmark, type Row } from './row';

const JOINTS = 100;
const KEYS = 60;
const SECONDS = 4;

const id = (j: number) => `joint${j}`;

/** A tree of joints, each with turns and moves of so many keys, as an imported clip has them. */
export function moving(joints: number, keys: number): { kit: Kit; blobs: MemoryBlobs; clip: Clip } {
  equipNode();
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Moving');
  const tracks: SampleTrack[] = [];
  const times = putArray(
    blobs,
    Float32Array.from({ length: keys }, (_, k) => (SECONDS * k) / (keys - 1)),
    1,
  );
  for (let j = 0; j < joints; j++) {
    kit.parts[id(j)] = newPart({
      id: id(j),
      name: id(j),
      role: 'joint',
      parent: j === 0 ? null : id((j - 1) >> 1),
      translation: [0.1, 0.2, 0],
    });
    const turns = Float32Array.from({ length: 4 * keys }, (_, i) => {
      const half = 0.4 * Math.sin(((i >> 2) / keys) * 6.28 * (1 + (j % 3)) + j);
      return [Math.sin(half), 0, 0, Math.cos(half)][i % 4];
    });
    const moves = Float32Array.from({ length: 3 * keys }, (_, i) => 0.02 * Math.sin((12.56 * Math.floor(i / 3)) / keys + j + (i % 3)));
    const track = (property: 'rotation' | 'offset', values: Float32Array, width: number): SampleTrack => ({
      kind: 'samples',
      id: `${property}${j}`,
      part: id(j),
      property,
      interpolation: 'straight',
      times,
      values: putArray(blobs, values, width),
    });
    tracks.push(track('rotation', turns, 4), track('offset', moves, 3));
  }
  const clip: Clip = { id: 'clip', name: 'clip', order: 0, lengthSeconds: SECONDS, rate: 30, loop: 'loop', tracks };
  kit.clips.clip = clip;
  return { kit, blobs, clip };
}

/** The same as three.js's bones, their root, and the clip as its mixer has it. */
export function threeOf({ kit, blobs, clip }: ReturnType<typeof moving>): { root: THREE.Group; tracks: THREE.KeyframeTrack[] } {
  const objects = new Map<Id, THREE.Object3D>();
  const root = new THREE.Group();
  for (const part of Object.values(kit.parts)) {
    const object = new THREE.Bone();
    object.name = part.id;
    object.position.fromArray(part.translation);
    objects.set(part.id, object);
    (part.parent === null ? root : objects.get(part.parent)!).add(object);
  }
  const read = (sha: string) => Array.from(new Float32Array(blobs.get(sha).slice().buffer));
  const tracks = (clip.tracks as SampleTrack[]).map((track) => {
    const [times, values] = [read(track.times.blob), read(track.values.blob)];
    return track.property === 'rotation'
      ? new THREE.QuaternionKeyframeTrack(`${track.part}.quaternion`, times, values)
      : new THREE.VectorKeyframeTrack(
          `${track.part}.position`,
          times,
          values.map((value, i) => value + kit.parts[track.part].translation[i % 3]),
        );
  });
  return { root, tracks };
}

function mixerOf(made: ReturnType<typeof moving>): (time: number) => void {
  const { root, tracks } = threeOf(made);
  const mixer = new THREE.AnimationMixer(root);
  mixer.clipAction(new THREE.AnimationClip('clip', SECONDS, tracks)).play();
  return (time) => {
    mixer.setTime(time);
    root.updateMatrixWorld(true);
  };
}

const POSES = 3000;

function poseRow(row: string, title: string, timeOf: (i: number) => number): Benchmark {
  return {
    row,
    title,
    async run() {
      const made = moving(JOINTS, KEYS);
      const poser = new Poser(flattenParts(made.kit));
      const compiled = compileClip(made.clip, poser.flat, made.blobs);
      const theirs = mixerOf(made);
      const [ours, peer] = await paired(
        5,
        () =>
          milliseconds(() => {
            for (let i = 0; i < POSES; i++) {
              poser.reset();
              sampleClip(compiled, timeOf(i), poser.pose);
              poser.update();
            }
            return Promise.resolve();
          }),
        () =>
          milliseconds(() => {
            for (let i = 0; i < POSES; i++) theirs(timeOf(i));
            return Promise.resolve();
          }),
      );
      return rowOf(row, `ms / ${POSES}`, ours, peer, 0.5);
    },
  };
}

export const poseInOrder = poseRow(
  'pose-in-order',
  '100 joints of 60 keys, one frame after the other: pose and worlds, against three.js’s AnimationMixer (twice as fast)',
  (i) => ((i / 60) % 1) * SECONDS,
);
export const poseAtRandom = poseRow('pose-at-random', 'the same at random times', (i) => ((i * 0.61803398875) % 1) * SECONDS);

const WARM_MS = 2000;

/** Bytes that one of so many rounds leaves on the heap, against the arrays of the pose that it makes. */
export function allocationRow(row: string, pose: Pose, count: number, limit: number, round: (count: number) => void): Row {
  // Until the compiler has done its work, which leaves things of its own.
  for (const until = performance.now() + WARM_MS; performance.now() < until;) round(Math.ceil(count / 4));
  const grown: number[] = [];
  for (let i = 0; i < 5; i++) {
    (globalThis as { gc?: () => void }).gc?.();
    const before = process.memoryUsage().heapUsed;
    round(count);
    grown.push(Math.max(0, process.memoryUsage().heapUsed - before) / count);
  }
  const own = 8 * (pose.offset.length + pose.turn.length + pose.size.length + pose.spin.length);
  return rowOf(
    row,
    'bytes',
    grown,
    grown.map(() => own),
    limit,
  );
}

const POSED = 20_000;

export const poseAllocation: Benchmark = {
  row: 'pose-allocation',
  title: 'bytes that a pose leaves on the heap, over 20,000 of them, against its own arrays (a hundredth: none but what is measured by)',
  run() {
    const made = moving(JOINTS, KEYS);
    const flat = flattenParts(made.kit);
    const pose = newPose(flat);
    const compiled = compileClip(made.clip, flat, made.blobs);
    const round = (count: number) => {
      for (let i = 0; i < count; i++) {
        resetPose(flat, pose);
        sampleClip(compiled, ((i * 0.618) % 1) * SECONDS, pose);
      }
    };
    return Promise.resolve(allocationRow('pose-allocation', pose, POSED, 0.01, round));
  },
};

function plainDistances({ frames, width, rows }: PoseRows): Float32Array {
  const out = new Float32Array(frames * frames);
  const joints = width / 6;
  for (let i = 0; i < frames; i++) {
    for (let j = 0; j < frames; j++) {
      let sum = 0;
      for (let k = 0; k < width; k++) {
        const d = rows[i * width + k] - rows[j * width + k];
        sum += d * d;
      }
      out[i * frames + j] = sum / joints;
    }
  }
  return out;
}

/** Two thousand frames of sixty joints. */
function longRows(): PoseRows {
  const { kit, blobs, clip } = moving(60, 240);
  return poseRows(kit, { ...clip, lengthSeconds: SECONDS }, blobs, {
    from: 0,
    to: SECONDS,
    rate: 1999 / SECONDS,
    parts: Object.keys(kit.parts),
    root: null,
  });
}

export const loopFind: Benchmark = {
  row: 'loop-find',
  title: 'loops among 2,000 frames of 60 joints, against the plain double loop over all pairs (a quarter of its time)',
  async run() {
    const rows = longRows();
    const [ours, peer] = await paired(
      3,
      () => milliseconds(() => Promise.resolve(findLoops(rows, poseDistances(rows)!))),
      () => milliseconds(() => Promise.resolve(plainDistances(rows))),
    );
    return rowOf('loop-find', 'ms', ours, peer, 0.25);
  },
};

export const loopSeconds: Benchmark = {
  row: 'loop-seconds',
  title: 'the same, against 3 seconds',
  async run() {
    const rows = longRows();
    const ours: number[] = [];
    for (let i = 0; i < 3; i++) ours.push(await milliseconds(() => Promise.resolve(findLoops(rows, poseDistances(rows)!))));
    return rowOf(
      'loop-seconds',
      'ms',
      ours,
      ours.map(() => 3000),
      1,
    );
  },
};

export const thinning: Benchmark = {
  row: 'thin',
  title: '60 joints of 2,000 frames thinned to curves, against posing the kit at each of those frames once (at most 90 times)',
  async run() {
    const { kit, blobs, clip } = moving(60, 2000);
    const tracks = clip.tracks.map((track) => track.id);
    const poser = new Poser(flattenParts(kit));
    const compiled = compileClip(clip, poser.flat, blobs);
    const [ours, peer] = await paired(
      3,
      () =>
        milliseconds(() =>
          Promise.resolve(runCall(kit, callOf(thinTracks, { clip: 'clip', tracks, fit: 'curve', metres: 0.001, degrees: 0.25 }), blobs)),
        ),
      () =>
        milliseconds(() => {
          for (let i = 0; i < 2000; i++) {
            poser.reset();
            sampleClip(compiled, (SECONDS * i) / 1999, poser.pose);
            poser.update();
          }
          return Promise.resolve();
        }),
    );
    return rowOf('thin', 'ms', ours, peer, 90);
  },
};
