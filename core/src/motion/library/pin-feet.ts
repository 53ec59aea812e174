import Joi from 'joi';
import { defineOperation, idSchema, newId, partOf, type Id, type Kit, type KeyTrack, type Quat, type Vec3 } from '../../document';
import { conjugateQuat, flattenParts, multiplyQuats, Poser, reachOf, rotateVector, turnNearest } from '../../geometry';
import { clipOf } from '../clip-operations';
import { compileClip, sampleClip } from '../sampler';
import { allowance } from '../tools/thin-tracks';
import { curveKeys } from '../tools/fit-keys';
import { ToolError } from '../tools/chosen';
import { frames } from '../tools/close-loop';
import { turnBetween, twoBone } from './two-bone';

/** A foot stands while it goes slower than so much of its fastest, within so many metres of its lowest. */
const SLOW = 0.05;
const NEAR = 0.02;
/** Seconds over which a foot is let go. */
const BLEND = 0.1;

/** Stretches of samples during which a foot stands. */
export function plantedSpans(places: readonly Vec3[], times: readonly number[]): [from: number, to: number][] {
  const speed = places.map((_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(places.length - 1, i + 1)];
    return Math.hypot(...places[b].map((value, k) => value - places[a][k])) / (times[b] - times[a]);
  });
  const peak = Math.max(...speed);
  const floor = Math.min(...places.map(([, y]) => y));
  const spans: [number, number][] = [];
  places.forEach(([, y], i) => {
    if (peak === 0 || speed[i] > SLOW * peak || y > floor + NEAR) return;
    const last = spans[spans.length - 1];
    if (last?.[1] === i - 1) last[1] = i;
    else spans.push([i, i]);
  });
  return spans.filter(([from, to]) => to > from);
}

/**
 * Keeps each foot on its place while it stands, by solving its leg as two bones; between, it is let go smoothly. The three joints of a leg get
 * plain keys of turns.
 *
 * @param legs Upper, lower and foot of each.
 */
export const pinFeet = defineOperation<{ clip: Id; legs: [Id, Id, Id][] }>({
  id: 'motion.pin-feet',
  title: (kit, { clip, legs }) => `Pin ${legs.length === 1 ? 'a foot' : `${legs.length} feet`} in “${kit.clips[clip]?.name}” where they stand`,
  args: Joi.object({ clip: idSchema.required(), legs: Joi.array().items(Joi.array().items(idSchema).length(3)).min(1).max(50).required() }),
  change(kit, { clip: id, legs }, blobs) {
    const clip = clipOf(kit, id);
    for (const leg of legs) {
      leg.forEach((part) => partOf(kit, part));
      const [upper, lower, foot] = leg;
      if (kit.parts[lower].parent !== upper || kit.parts[foot].parent !== lower)
        throw new ToolError(`“${kit.parts[foot].name}” does not hang below “${kit.parts[lower].name}”, and that below “${kit.parts[upper].name}”, so it is no leg.`, foot);
      const times = frames(0, clip.lengthSeconds, 1 / Math.max(60, clip.rate));
      const poser = new Poser(flattenParts(kit));
      const compiled = compileClip(clip, poser.flat, blobs);
      const looks = times.map((time) => {
        poser.reset();
        sampleClip(compiled, time, poser.pose);
        poser.update();
        return leg.map((part) => ({ at: placeIn(poser, part), turn: worldTurn(poser, part), above: worldTurn(poser, kit.parts[part].parent) }));
      });
      const spans = plantedSpans(
        looks.map(([, , { at }]) => at),
        times,
      );
      if (spans.length === 0) continue;
      const shifts = shiftsOf(
        looks.map(([, , { at }]) => at),
        times,
        spans,
      );
      const spins = looks.map((look, i) => solved(kit, leg, look, shifts[i]));
      clip.tracks = clip.tracks.filter((track) => !(leg.includes(track.part) && (track.property === 'turn' || track.property === 'rotation')));
      leg.forEach((part, k) => {
        const { turnOrder } = kit.parts[part];
        let near: Vec3 = [0, 0, 0];
        const turns = spins.map((all) => (near = turnNearest(all[k], turnOrder, near)));
        const within = allowance('turn', reachOf(kit, blobs, part), { metres: 0.0015, degrees: 0.2 });
        for (const axis of [0, 1, 2]) {
          const values = turns.map((turn) => turn[axis]);
          if (values.every((value) => Math.abs(value) < 1e-6)) continue;
          const made: KeyTrack = { kind: 'keys', id: newId(), part, property: 'turn', axis, keys: curveKeys(times, values, within) };
          clip.tracks.push(made);
        }
      });
    }
  },
});

interface Look {
  at: Vec3;
  turn: Quat;
  above: Quat;
}

function placeIn(poser: Poser, part: Id): Vec3 {
  const world = poser.worldOf(part);
  return [world[12], world[13], world[14]];
}

/** A part's turn in the world, without scale. */
function worldTurn(poser: Poser, part: Id | null): Quat {
  let turn: Quat = [0, 0, 0, 1];
  const { flat, rotation } = poser;
  for (let p = part === null ? -1 : flat.indexOf.get(part)!; p >= 0; p = flat.parent[p]) turn = multiplyQuats([rotation[4 * p], rotation[4 * p + 1], rotation[4 * p + 2], rotation[4 * p + 3]], turn);
  return turn;
}

/** How far each sample's foot is moved: onto the middle of where it stands, and less and less beside that. */
function shiftsOf(places: readonly Vec3[], times: readonly number[], spans: readonly [number, number][]): Vec3[] {
  const out: Vec3[] = places.map(() => [0, 0, 0]);
  for (const [from, to] of spans) {
    const anchor = [0, 1, 2].map((k) => places.slice(from, to + 1).reduce((sum, place) => sum + place[k], 0) / (to - from + 1));
    const inside = (i: number) => spans.some(([a, b]) => i >= a && i <= b);
    places.forEach((place, i) => {
      if (i >= from && i <= to) out[i] = place.map((value, k) => anchor[k] - value) as Vec3;
      else if (!inside(i)) {
        const edge = i < from ? from : to;
        const share = 1 - Math.abs(times[i] - times[edge]) / BLEND;
        if (share <= 0) return;
        const weight = share * share * (3 - 2 * share);
        out[i] = out[i].map((value, k) => value + weight * (anchor[k] - places[edge][k])) as Vec3;
      }
    });
  }
  return out;
}

/** Turns after rest of the three joints with the foot moved; the foot lies as it lay. */
function solved(kit: Kit, [upper, lower, foot]: readonly Id[], [a, b, c]: Look[], shift: Vec3): Quat[] {
  const minus = (to: Vec3, from: Vec3) => to.map((value, k) => value - from[k]) as Vec3;
  const [first, second] = [minus(b.at, a.at), minus(c.at, b.at)];
  const straight = minus(c.at, a.at);
  // The knee goes on bending the way it does; of a straight leg that is forward as the upper bone sees it.
  const bend = minus(b.at, a.at.map((value, k) => value + 0.5 * straight[k]) as Vec3);
  const pole = Math.hypot(...bend) > 1e-3 * Math.hypot(...straight) ? bend : rotateVector(a.turn, [0, 0, 1]);
  const target = c.at.map((value, k) => value + shift[k]) as Vec3;
  const { middle, end } = twoBone(a.at, target, Math.hypot(...first), Math.hypot(...second), pole);
  const turnA = multiplyQuats(turnBetween(first, pole, minus(middle, a.at), pole), a.turn);
  const turnB = multiplyQuats(turnBetween(second, pole, minus(end, middle), pole), b.turn);
  const spin = (id: Id, above: Quat, turn: Quat) => multiplyQuats(conjugateQuat(kit.parts[id].rotation), multiplyQuats(conjugateQuat(above), turn));
  return [spin(upper, a.above, turnA), spin(lower, turnA, turnB), spin(foot, turnB, c.turn)];
}
