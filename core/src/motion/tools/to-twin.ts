import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  newId,
  partOf,
  type Blobs,
  type Clip,
  type Id,
  type Key,
  type KeyProperty,
  type KeyTrack,
  type Kit,
  type Quat,
} from '../../document';
import { decomposeMatrix, mat3FromQuat, reachOf, restWorlds, type Mat3 } from '../../geometry';
import { clipOf } from '../clip-operations';
import { eachTrack, findTrack, insertKey, plural } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { chosenArgs, number, ToolError, trackFor, type Chosen } from './chosen';
import { keysAfter, offsetsInMirror, tripleOf, turnsInMirror } from './mirrored-keys';
import { scaledAbout } from './scale-values';
import { shifted } from './shift-keys';
import { allowance } from './thin-tracks';

/** Entries of a turned mirror that are this near to 0 or ±1 are that. */
const NEAR = 1e-3;
/** What a vertex, and what a turn may be off by where keys had to be made anew. */
const WITHIN = { metres: 0.0005, degrees: 0.05 };

interface Mirror {
  /** Where each axis goes, and whether it is turned over. */
  to: number[];
  sign: number[];
}

/**
 * Bᵀ·M·A, with M the mirror of an axis of the world: how one part's axes are seen in those of its twin. Null where axes do not go onto
 * axes.
 */
function mirrorBetween(a: Quat, b: Quat, axis: number): Mirror | null {
  const [from, to] = [mat3FromQuat(a), mat3FromQuat(b)];
  const entry = (m: Mat3, row: number, column: number) => m[3 * column + row];
  const out: Mirror = { to: [], sign: [] };
  for (let column = 0; column < 3; column++) {
    const onto = [0, 1, 2].map((row) =>
      [0, 1, 2].reduce((sum, k) => sum + entry(to, k, row) * (k === axis ? -1 : 1) * entry(from, k, column), 0),
    );
    const row = onto.findIndex((value) => Math.abs(Math.abs(value) - 1) < NEAR);
    if (row < 0) return null;
    out.to.push(row);
    out.sign.push(Math.sign(onto[row]));
  }
  return out;
}

/** Chosen keys of one property of a part, by track. */
interface Moved {
  part: Id;
  property: KeyProperty;
  tracks: KeyTrack[];
}

/** Keys for one axis of a twin. */
interface Copy {
  axis: number;
  keys: Key[];
}

/**
 * Copies the chosen keys to the twins of their parts, mirrored across a plane of the kit: what the one does to the left, the other does to
 * the right, whatever way its axes lie. Where the axes of both go onto one another in the mirror, the keys do so one by one; elsewhere a
 * turn about one axis is one about three of the twin's, and the whole turn or offset of the part is mirrored over the time of the chosen
 * keys. A part in the plane is its own twin.
 *
 * @param pairs The twin of each part. @param bySeconds So much later; in a loop what leaves at the end comes in at the beginning.
 * @throws {ToolError} where a part has no twin, or one whose axes differ while its size changes by axis
 */
export const keysToTwin = defineOperation<Chosen & { pairs: Record<Id, Id>; axis: number; bySeconds: number }>({
  id: 'motion.to-twin',
  title: (_, { keys }) => `Copy ${plural(keys.length)} to the twins`,
  args: Joi.object({
    ...chosenArgs,
    pairs: Joi.object().pattern(idSchema, idSchema).required(),
    axis: Joi.valid(0, 1, 2).required(),
    bySeconds: number(3600).required(),
  }),
  change(kit, { pairs, axis, bySeconds, ...chosen }, blobs) {
    const clip = clipOf(kit, chosen.clip);
    const glass = new LookingGlass(kit, clip, axis, blobs);
    const moves = new Map<string, Moved>();
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      const { part, property } = track;
      const keys = track.keys.filter(isChosen).map((key) => ({ ...key }));
      if (keys.length === 0) return;
      const name = `${part} ${property}`;
      if (!moves.has(name)) moves.set(name, { part, property, tracks: [] });
      moves.get(name)!.tracks.push({ ...track, keys });
    });
    const copies = [...moves.values()].map((move) => {
      const twin = pairs[move.part];
      if (twin === undefined)
        throw new ToolError(`“${partOf(kit, move.part).name}” has no twin on the other side. Leave its keys out.`, move.part);
      partOf(kit, twin);
      return { twin, property: move.property, copies: glass.copies(move, twin) };
    });
    for (const { twin, property, copies: all } of copies)
      for (const { axis: to, keys } of all) {
        const target = trackFor(clip, twin, property, to, newId);
        const [first, last] = [keys[0].time, keys[keys.length - 1].time];
        if (bySeconds === 0) {
          target.keys = target.keys.filter((key) => key.time < first - SAME_TIME || key.time > last + SAME_TIME);
          for (const key of keys) insertKey(target.keys, key);
        } else target.keys = shifted(keys, bySeconds, clip.lengthSeconds, clip.loop === 'loop');
      }
  },
});

const isAtRest = (keys: readonly Key[]) =>
  keys.every(({ value, slopeIn, slopeOut }) => [value, slopeIn ?? 0, slopeOut ?? 0].every((one) => Math.abs(one) < 1e-9));

/** How what parts do looks in the mirror of a plane of the kit, in the axes of their twins. */
class LookingGlass {
  private readonly rest: Map<Id, Quat>;

  constructor(
    private readonly kit: Kit,
    private readonly clip: Clip,
    private readonly axis: number,
    private readonly blobs: Blobs,
  ) {
    this.rest = new Map([...restWorlds(kit)].map(([id, world]) => [id, decomposeMatrix(world).rotation]));
  }

  copies(moved: Moved, twin: Id): Copy[] {
    const { property, tracks } = moved;
    if (property === 'shown' || property === 'weight') return tracks.map(({ axis, keys }) => ({ axis, keys }));
    const [part, other] = [partOf(this.kit, moved.part), partOf(this.kit, twin)];
    const mirror =
      property === 'offset'
        ? mirrorBetween(this.restOf(part.parent), this.restOf(other.parent), this.axis)
        : mirrorBetween(this.restOf(part.id), this.restOf(other.id), this.axis);
    if (mirror && (property !== 'turn' || this.sameOrder(part.id, twin, mirror)))
      return tracks.map((track) => {
        const sign = mirror.sign[track.axis];
        // A turn is an axial vector: in a mirror it goes the other way round.
        const factor = { offset: sign, turn: -sign, size: 1 }[property];
        return { axis: mirror.to[track.axis], keys: track.keys.map((key) => scaledAbout(key, factor, 0)) };
      });
    return property === 'size' ? this.sizes(moved, other.name) : this.anew(moved, twin);
  }

  private restOf(id: Id | null): Quat {
    return id === null ? [0, 0, 0, 1] : this.rest.get(id)!;
  }

  /** Whether turns about several axes follow one another in the twin as they do in the part, or there is only one. */
  private sameOrder(id: Id, twin: Id, mirror: Mirror): boolean {
    const [part, other] = [partOf(this.kit, id), partOf(this.kit, twin)];
    const order = [...part.turnOrder].map((letter) => 'xyz'[mirror.to['xyz'.indexOf(letter)]]).join('');
    const turns = new Set(
      Object.values(this.kit.clips).flatMap((clip) =>
        clip.tracks.flatMap((one) => (one.kind === 'keys' && one.part === id && one.property === 'turn' ? [one.axis] : [])),
      ),
    );
    return turns.size <= 1 || order === other.turnOrder;
  }

  /** Of one size whatever the axis, it is so in any axes. */
  private sizes({ tracks }: Moved, name: string): Copy[] {
    const [one, ...others] = tracks;
    const alike = ({ keys }: KeyTrack) =>
      keys.length === one.keys.length &&
      keys.every((key, i) => Math.abs(key.time - one.keys[i].time) < SAME_TIME && Math.abs(key.value - one.keys[i].value) < 1e-6);
    if (tracks.length < 3 || !others.every(alike))
      throw new ToolError(
        `The axes of “${name}” are not those of its twin seen in a mirror, so it cannot take a size that differs by axis. Leave those keys out, or lay its axes in Rig or Shape.`,
      );
    return tracks.map(({ axis, keys }) => ({ axis, keys }));
  }

  private anew({ part, property, tracks }: Moved, twin: Id): Copy[] {
    const { kit, clip, axis } = this;
    const own = [0, 1, 2].map(
      (k) =>
        tracks.find((track) => track.axis === k) ??
        clip.tracks.find(
          (track): track is KeyTrack => track.kind === 'keys' && track.part === part && track.property === property && track.axis === k,
        ),
    );
    const [mine, other] = [partOf(kit, part), partOf(kit, twin)];
    const values =
      property === 'offset'
        ? offsetsInMirror(tripleOf(own), this.restOf(mine.parent), this.restOf(other.parent), axis)
        : turnsInMirror(
            tripleOf(own),
            { rest: this.restOf(part), order: mine.turnOrder },
            { rest: this.restOf(twin), order: other.turnOrder },
            axis,
          );
    const [first, last] = [
      Math.min(...tracks.map(({ keys }) => keys[0].time)),
      Math.max(...tracks.map(({ keys }) => keys[keys.length - 1].time)),
    ];
    const within = allowance(property, reachOf(kit, this.blobs, twin), WITHIN);
    // Keys of axes that were not chosen are told by what they do in that time.
    const told = own.flatMap((track) =>
      track ? [{ keys: track.keys.filter(({ time }) => time > first - SAME_TIME && time < last + SAME_TIME) }] : [],
    );
    const made = keysAfter(values, told, clip.rate, within).map((keys, k) => ({ axis: k, keys }));
    // What stays at rest needs no track of its own; one is kept, so that there is something to see.
    const needed = made.filter((copy) => !isAtRest(copy.keys) || findTrack(kit, clip.id, twin, property, copy.axis));
    return needed.length > 0 ? needed : made.slice(0, 1);
  }
}
