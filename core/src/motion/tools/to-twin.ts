import Joi from 'joi';
import { defineOperation, idSchema, newId, partOf, type Id, type Key, type KeyTrack, type Kit, type Quat } from '../../document';
import { decomposeMatrix, mat3FromQuat, restWorlds, type Mat3, type Mat4 } from '../../geometry';
import { clipOf } from '../clip-operations';
import { eachTrack, insertKey, plural } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { chosenArgs, number, ToolError, trackFor, type Chosen } from './chosen';
import { scaledAbout } from './scale-values';
import { shifted } from './shift-keys';

/** Entries of a turned mirror that are this near to 0 or ±1 are that. */
const NEAR = 1e-3;

interface Mirror {
  /** Where each axis goes, and whether it is turned over. */
  to: number[];
  sign: number[];
}

/** Bᵀ·M·A, with M the mirror of an axis of the world: how one part's axes are seen in those of its twin. Null where axes do not go onto axes. */
function mirrorBetween(a: Quat, b: Quat, axis: number): Mirror | null {
  const [from, to] = [mat3FromQuat(a), mat3FromQuat(b)];
  const entry = (m: Mat3, row: number, column: number) => m[3 * column + row];
  const out: Mirror = { to: [], sign: [] };
  for (let column = 0; column < 3; column++) {
    const onto = [0, 1, 2].map((row) => [0, 1, 2].reduce((sum, k) => sum + entry(to, k, row) * (k === axis ? -1 : 1) * entry(from, k, column), 0));
    const row = onto.findIndex((value) => Math.abs(Math.abs(value) - 1) < NEAR);
    if (row < 0) return null;
    out.to.push(row);
    out.sign.push(Math.sign(onto[row]));
  }
  return out;
}

/**
 * Copies the chosen keys to the twins of their parts, mirrored across a plane of the kit: what the one does to the left, the other does to the
 * right, whatever way its axes lie. A part in the plane is its own twin.
 *
 * @param pairs The twin of each part. @param bySeconds So much later; in a loop what leaves at the end comes in at the beginning.
 * @throws {ToolError} where a twin's axes are not those of its part seen in a mirror
 */
export const keysToTwin = defineOperation<Chosen & { pairs: Record<Id, Id>; axis: number; bySeconds: number }>({
  id: 'motion.to-twin',
  title: (_, { keys }) => `Copy ${plural(keys.length)} to the twins`,
  args: Joi.object({ ...chosenArgs, pairs: Joi.object().pattern(idSchema, idSchema).required(), axis: Joi.valid(0, 1, 2).required(), bySeconds: number(3600).required() }),
  change(kit, { pairs, axis, bySeconds, ...chosen }) {
    const clip = clipOf(kit, chosen.clip);
    const worlds = restWorlds(kit);
    const copies: { part: Id; track: KeyTrack; to: number; keys: Key[] }[] = [];
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      const twin = pairs[track.part];
      if (twin === undefined) throw new ToolError(`“${partOf(kit, track.part).name}” has no twin on the other side. Leave its keys out.`, track.part);
      const { to, factor } = mirrored(kit, track, twin, axis, worlds);
      copies.push({ part: twin, track, to, keys: track.keys.filter(isChosen).map((key) => scaledAbout(key, factor, 0)) });
    });
    for (const { part, track, to, keys } of copies) {
      const target = trackFor(clip, part, track.property, to, newId);
      const [first, last] = [keys[0].time, keys[keys.length - 1].time];
      if (bySeconds === 0) {
        target.keys = target.keys.filter((key) => key.time < first - SAME_TIME || key.time > last + SAME_TIME);
        for (const key of keys) insertKey(target.keys, key);
      } else target.keys = shifted(keys, bySeconds, clip.lengthSeconds, 1 / clip.rate, clip.loop === 'loop');
    }
  },
});

function mirrored(kit: Kit, track: KeyTrack, twin: Id, axis: number, worlds: Map<Id, Mat4>): { to: number; factor: number } {
  if (track.property === 'shown' || track.property === 'weight') return { to: track.axis, factor: 1 };
  const turnOf = (id: Id | null): Quat => (id === null ? [0, 0, 0, 1] : decomposeMatrix(worlds.get(id)!).rotation);
  const [part, other] = [partOf(kit, track.part), partOf(kit, twin)];
  const mirror = track.property === 'offset' ? mirrorBetween(turnOf(part.parent), turnOf(other.parent), axis) : mirrorBetween(turnOf(part.id), turnOf(other.id), axis);
  if (!mirror) throw new ToolError(`The axes of “${other.name}” are not those of “${part.name}” seen in a mirror. Lay its own axes first, in Rig or Shape.`, twin);
  const order = [...part.turnOrder].map((letter) => 'xyz'[mirror.to['xyz'.indexOf(letter)]]).join('');
  const turns = new Set(Object.values(kit.clips).flatMap((clip) => clip.tracks.flatMap((one) => (one.kind === 'keys' && one.part === part.id && one.property === 'turn' ? [one.axis] : []))));
  if (track.property === 'turn' && turns.size > 1 && order !== other.turnOrder) {
    throw new ToolError(`“${other.name}” turns about its axes in another order than “${part.name}” does. Only turns about one axis can be mirrored.`, twin);
  }
  const sign = mirror.sign[track.axis];
  // A turn is an axial vector: in a mirror it goes the other way round.
  return { to: mirror.to[track.axis], factor: track.property === 'offset' ? sign : track.property === 'turn' ? -sign : 1 };
}
