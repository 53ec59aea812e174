import * as THREE from 'three';
import { MixPlayer } from '@itchkit/core/behaviour';
import type { Mix } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { moving, threeOf } from './motion';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

const [JOINTS, KEYS, CLIPS, FRAMES] = [60, 60, 9, 600];

/** A field of three by three. */
const places = Array.from({ length: CLIPS }, (_, i) => [(i % 3) - 1, Math.floor(i / 3) - 1]);

export const mixField: Benchmark = {
  row: 'mix-field',
  title: `a field of ${CLIPS} clips × ${JOINTS} joints, shares and pose of ${FRAMES} frames, against three.js’s AnimationMixer with the same weights (half its time)`,
  async run() {
    const made = moving(JOINTS, KEYS);
    for (let i = 0; i < CLIPS; i++) made.kit.clips[`clip${i}`] = { ...made.clip, id: `clip${i}`, name: `clip${i}` };
    const mix: Mix = {
      id: 'mix',
      name: 'mix',
      kind: 'across',
      parameters: ['x', 'y'],
      pegs: places.map((at, i) => ({ id: `peg${i}`, clip: `clip${i}`, at, speed: 1 })),
    };
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
