import * as THREE from 'three';
import { BehaviourPlayer, MixPlayer } from '@itchkit/core/behaviour';
import type { BehaviourState, Clip, KeyTrack, Layer, Mix } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { allocationRow, moving, threeOf } from './motion';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

const [JOINTS, KEYS, CLIPS, FRAMES] = [60, 60, 9, 3000];

/** A field of three by three. */
const places = Array.from({ length: CLIPS }, (_, i) => [(i % 3) - 1, Math.floor(i / 3) - 1]);

function fieldOf(): { made: ReturnType<typeof moving>; mix: Mix } {
  const made = moving(JOINTS, KEYS);
  for (let i = 0; i < CLIPS; i++) made.kit.clips[`clip${i}`] = { ...made.clip, id: `clip${i}`, name: `clip${i}` };
  const pegs = places.map((at, i) => ({ id: `peg${i}`, clip: `clip${i}`, at, speed: 1 }));
  return { made, mix: { id: 'mix', name: 'mix', kind: 'across', parameters: ['x', 'y'], pegs } };
}

export const mixField: Benchmark = {
  row: 'mix-field',
  title: `a field of ${CLIPS} clips × ${JOINTS} joints, shares and pose of ${FRAMES} frames, against three.js’s AnimationMixer with the same weights (half its time)`,
  async run() {
    const { made, mix } = fieldOf();
    const poser = new Poser(flattenParts(made.kit));
    const player = new MixPlayer(mix, made.kit, poser.flat, made.blobs, true);
    const course = player.start();
    const { root, tracks } = threeOf(made);
    const mixer = new THREE.AnimationMixer(root);
    const actions = places.map((_, i) => mixer.clipAction(new THREE.AnimationClip(`clip${i}`, made.clip.lengthSeconds, tracks)).play());
    // Off the pegs and their lines, where most clips have a share.
    const where = (i: number) => ({ x: 0.55 * Math.sin(i / 90), y: 0.5 * Math.cos(i / 70) });
    const shares = Array.from({ length: FRAMES }, (_, i) => {
      player.setPlace(where(i));
      return [...player.shares];
    });
    const [ours, peer] = await paired(
      7,
      () =>
        milliseconds(() => {
          for (let i = 0; i < FRAMES; i++) {
            player.setPlace(where(i));
            player.advance(course, 1 / 60);
            player.sample(course, poser.pose);
            poser.update();
          }
          return Promise.resolve();
        }),
      () =>
        milliseconds(() => {
          for (let i = 0; i < FRAMES; i++) {
            // An action of no weight is not sampled there either.
            actions.forEach((action, k) => action.setEffectiveWeight(shares[i][k]));
            mixer.update(1 / 60);
            root.updateMatrixWorld(true);
          }
          return Promise.resolve();
        }),
    );
    return rowOf('mix-field', 'ms', ours, peer, 0.5);
  },
};

const MIXED = 6000;

/** A clip whose parts turn by keys of a curve, as those that are made by hand. */
function keyed(clip: Clip): Clip {
  const easing = 'curve' as const;
  const tracks = clip.tracks.map(({ part }, i): KeyTrack => {
    const keys = Array.from({ length: 8 }, (_, k) => ({ time: (clip.lengthSeconds * k) / 7, value: 9 * Math.sin(k + i), easing }));
    return { kind: 'keys', id: `turn${i}`, part, property: 'turn', axis: (i % 3) as 0 | 1 | 2, keys };
  });
  return { ...clip, id: 'top', name: 'top', tracks };
}

/** A layer of two states between which a value leads; one of them plays a field of clips. */
function mixedLayers(mix: Mix): Layer[] {
  const when = (atLeast: number | null, below: number | null) => [{ parameter: 'x', kind: 'range' as const, atLeast, below }];
  const passage = { except: [], after: 'any' as const, over: 0.2 };
  const walk: BehaviourState = { id: 'walk', name: 'walk', clip: null, mix: mix.id, speed: 1, loop: true };
  const lie: BehaviourState = { id: 'lie', name: 'lie', clip: 'clip0', speed: 1, loop: true };
  const body = layerOf('body', {
    first: 'walk',
    states: [walk, lie],
    passages: [
      { id: 'down', from: 'walk', to: 'lie', when: when(5, null), ...passage },
      { id: 'up', from: 'lie', to: 'walk', when: when(null, 5), ...passage },
    ],
  });
  return [body, layerOf('limb', { parts: [`joint${JOINTS / 2}`], edge: 2 }), layerOf('top', { how: 'adds' })];
}

export const mixAllocation: Benchmark = {
  row: 'mix-allocation',
  title: `bytes that a frame of three layers leaves on the heap, one of them a field of ${CLIPS} clips and one a clip of keys, over ${MIXED} of them, against the arrays of a pose (a fiftieth: the two numbers that are passed in)`,
  run() {
    const { made, mix } = fieldOf();
    made.kit.clips.limb = { ...made.clip, id: 'limb', name: 'limb' };
    made.kit.clips.top = keyed(made.clip);
    made.kit.mixes = [mix];
    made.kit.behaviour = { layers: mixedLayers(mix) };
    const poser = new Poser(flattenParts(made.kit));
    const values = { x: 0.2, y: -0.3 };
    const player = new BehaviourPlayer(made.kit, poser.flat, made.blobs, { chain: 4 }, values);
    let frame = 0;
    const round = (count: number) => {
      for (let i = 0; i < count; i++, frame++) {
        values.x = 0.55 * Math.sin(frame / 90);
        values.y = 0.5 * Math.cos(frame / 70);
        player.step(values, 1 / 60);
        player.pose(poser.pose);
      }
    };
    return Promise.resolve(allocationRow('mix-allocation', poser.pose, MIXED, 0.02, round));
  },
};

const [FIGURES, ROUNDS] = [200, 12];

/** A layer that plays one clip for ever. */
const layerOf = (name: string, said: Partial<Layer>): Layer => {
  const state: BehaviourState = { id: name, name, clip: name, speed: 1, loop: true };
  return { id: name, name, parts: [], how: 'replaces', first: name, states: [state], passages: [], ...said };
};

export const figures: Benchmark = {
  row: 'figures',
  title: `${FIGURES} figures of ${JOINTS} joints, three layers each (one of a limb, one on top), ${ROUNDS} frames, against three.js’s AnimationMixer with three actions each (half its time)`,
  async run() {
    const made = moving(JOINTS, KEYS);
    const limb = Object.keys(made.kit.parts)[JOINTS / 2];
    const layers = [layerOf('body', {}), layerOf('limb', { parts: [limb], edge: 2 }), layerOf('top', { how: 'adds' })];
    for (const { id } of layers) made.kit.clips[id] = { ...made.clip, id, name: id };
    made.kit.behaviour = { layers };
    const poser = new Poser(flattenParts(made.kit));
    const players = Array.from({ length: FIGURES }, () => new BehaviourPlayer(made.kit, poser.flat, made.blobs, { chain: 4 }, {}));
    const peers = players.map(() => {
      const { root, tracks } = threeOf(made);
      const mixer = new THREE.AnimationMixer(root);
      const clips = [tracks, tracks.slice(tracks.length / 2), tracks].map(
        (some, i) => new THREE.AnimationClip(layers[i].name, made.clip.lengthSeconds, some),
      );
      THREE.AnimationUtils.makeClipAdditive((clips[2] = clips[2].clone()));
      for (const clip of clips) mixer.clipAction(clip).play();
      return { root, mixer };
    });
    const [ours, peer] = await paired(
      7,
      () =>
        milliseconds(() => {
          for (let i = 0; i < ROUNDS; i++)
            for (const player of players) {
              player.step({}, 1 / 60);
              player.pose(poser.pose);
              poser.update();
            }
          return Promise.resolve();
        }),
      () =>
        milliseconds(() => {
          for (let i = 0; i < ROUNDS; i++)
            for (const { root, mixer } of peers) {
              mixer.update(1 / 60);
              root.updateMatrixWorld(true);
            }
          return Promise.resolve();
        }),
    );
    return rowOf('figures', 'ms', ours, peer, 0.5);
  },
};
