import { Quaternion, Vector3 } from 'three';
import { MixPlayer } from '../behaviour';
import type { Clip, Id, Mix } from '../document';
import { flattenParts, Poser } from '../geometry';
import { furthestOf, looksAt, type Oracle } from './oracle';
import { shownVertices } from './shown-vertices';
import { plainMoves, plainPosed, plainVertices, type PlainMove } from './plain-poser';
import { randomKit } from './random-kits';

/** Moves by their shares: offsets, sizes and weights as sums, rotations as the sum of quaternions, each on the side of those before it. */
function mixed(moves: readonly ReadonlyMap<Id, PlainMove>[], shares: readonly number[]): Map<Id, PlainMove> {
  return new Map(
    [...moves[0].keys()].map((id) => {
      const sum: PlainMove = { offset: new Vector3(), rotation: new Quaternion(0, 0, 0, 0), size: new Vector3(), weights: [] };
      moves.forEach((of, i) => {
        const move = of.get(id)!;
        sum.offset.addScaledVector(move.offset, shares[i]);
        sum.size.addScaledVector(move.size, shares[i]);
        sum.weights = move.weights.map((weight, w) => (sum.weights[w] ?? 0) + shares[i] * weight);
        const side = sum.rotation.dot(move.rotation) < 0 ? -shares[i] : shares[i];
        const [a, b] = [sum.rotation, move.rotation];
        a.set(a.x + side * b.x, a.y + side * b.y, a.z + side * b.z, a.w + side * b.w);
      });
      sum.rotation.normalize();
      return [id, sum];
    }),
  );
}

/** Clips by their shares, each of which moves some of the parts. */
export const mixing: Oracle = {
  id: 'mixes',
  about: 'Three clips mixed by what is passed in, each moving some of the parts: every vertex',
  against: 'a plain poser’s moves of each clip, added up by their shares',
  promised: 1e-2,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const { kit, blobs, clip, random } = randomKit(seed);
    const clips = ['a', 'b', 'c'].map((id): Clip => {
      const tracks = clip.tracks.filter(() => random.chance(0.5)).map((track) => ({ ...track, id: `${id} ${track.id}` }));
      return (kit.clips[id] = { ...clip, id, name: id, loop: 'loop', tracks });
    });
    const mix: Mix = {
      id: 'mix',
      name: 'mix',
      kind: 'across',
      parameters: ['x', 'y'],
      pegs: clips.map(({ id }, i) => ({ id, clip: id, at: [i % 2, i >> 1], speed: 1 })),
    };
    const poser = new Poser(flattenParts(kit));
    const player = new MixPlayer(mix, kit, poser.flat, blobs, false);
    return (
      1000 *
      Math.max(
        0,
        ...looksAt(clip, blobs, random, 8).map((time) => {
          player.setPlace({ x: random.between(-0.5, 1.5), y: random.between(-0.5, 1.5) });
          const at = player.start();
          player.advance(at, time);
          player.sample(at, poser.pose);
          poser.update();
          const moves = clips.map((one, peg) => plainMoves(kit, blobs, one, player.clipTime(at, peg)));
          return furthestOf(shownVertices(kit, blobs, poser), plainVertices(kit, blobs, plainPosed(kit, mixed(moves, [...player.shares]))));
        }),
      )
    );
  },
};
