import Joi from 'joi';
import {
  defineOperation,
  EASINGS,
  idSchema,
  KEY_PROPERTIES,
  KitError,
  newId,
  partOf,
  type Clip,
  type Easing,
  type Id,
  type Key,
  type KeyProperty,
  type KeyTrack,
  type Kit,
} from '../document';
import { clipOf } from './clip-operations';
import { restValue } from './formula-track';
import { SAME_TIME } from './same-time';
import { sampleKeys } from './sampler';

/** A time that does not lie within its clip. */
export class OutsideClipError extends KitError {
  constructor(time: number, length: number) {
    super(
      'outside-clip',
      `${time.toFixed(3)} s is outside the clip, which is ${length.toFixed(3)} s long. Lengthen the clip first, or choose an earlier time.`,
    );
  }
}

/** The track of keys of one axis of a part's property, if there is one. */
export function findTrack(kit: Kit, clip: Id, part: Id, property: KeyProperty, axis: number): KeyTrack | undefined {
  return clipOf(kit, clip).tracks.find(
    (track): track is KeyTrack => track.kind === 'keys' && track.part === part && track.property === property && track.axis === axis,
  );
}

export interface KeyValue {
  part: Id;
  property: KeyProperty;
  axis: number;
  value: number;
}

/** Writes keys at one time; makes tracks where they are missing, replaces a key that stands there. */
export const setKeys = defineOperation<{ clip: Id; time: number; values: KeyValue[]; easing?: Easing }>({
  id: 'motion.set-keys',
  title: (kit, { values, time }) => {
    const names = [...new Set(values.map((value) => kit.parts[value.part]?.name))];
    return `Key ${names.length === 1 ? `“${names[0]}”` : `${names.length} parts`} at ${time.toFixed(2)} s`;
  },
  args: Joi.object({
    clip: idSchema.required(),
    time: Joi.number().min(0).required(),
    easing: Joi.valid(...EASINGS),
    values: Joi.array()
      .items(
        Joi.object({
          part: idSchema.required(),
          property: Joi.valid(...KEY_PROPERTIES).required(),
          axis: Joi.number().integer().min(0).required(),
          value: Joi.number().required(),
        }),
      )
      .min(1)
      .required(),
  }),
  change(kit, { clip: clipId, time, values, easing }) {
    const clip = clipOf(kit, clipId);
    if (time > clip.lengthSeconds + SAME_TIME) throw new OutsideClipError(time, clip.lengthSeconds);
    for (const { part, property, axis, value } of values) {
      partOf(kit, part);
      let track = findTrack(kit, clipId, part, property, axis);
      if (!track) {
        track = { kind: 'keys', id: newId(), part, property, axis, keys: [] };
        clip.tracks.push(track);
        track = findTrack(kit, clipId, part, property, axis)!;
      }
      // A key that stands there keeps its tangents.
      const there = track.keys.find((key) => Math.abs(key.time - time) < SAME_TIME);
      insertKey(track.keys, { ...there, time, value, easing: easing ?? easingAt(track.keys, time) });
    }
  },
});

function easingAt(keys: Key[], time: number): Easing {
  const before = keys.filter((key) => key.time <= time + SAME_TIME).at(-1);
  return before?.easing ?? keys[0]?.easing ?? 'curve';
}

/** Puts a key in its place; one that stands there is replaced. Gives the time where it stands. */
export function insertKey(keys: Key[], key: Key): number {
  let place = keys.length;
  while (place > 0 && keys[place - 1].time > key.time - SAME_TIME) place--;
  const same = place < keys.length && Math.abs(keys[place].time - key.time) < SAME_TIME;
  const time = same ? keys[place].time : key.time;
  keys.splice(place, same ? 1 : 0, { ...key, time });
  return time;
}

/** A key by its track and the time where it stands, seconds. */
export interface KeyRef {
  track: Id;
  time: number;
}

/** Keys by track and time (seconds), one or more. */
export const keyRefs = Joi.array()
  .items(Joi.object({ track: idSchema.required(), time: Joi.number().required() }))
  .min(1)
  .required();

/** Visits every track of which keys are chosen. */
export function eachTrack(
  kit: Kit,
  clipId: Id,
  refs: readonly KeyRef[],
  visit: (track: KeyTrack, isChosen: (key: Key) => boolean) => void,
): void {
  const clip = clipOf(kit, clipId);
  const byTrack = new Map<Id, KeyRef[]>();
  for (const ref of refs) {
    const list = byTrack.get(ref.track);
    if (list) list.push(ref);
    else byTrack.set(ref.track, [ref]);
  }
  for (const track of clip.tracks) {
    const chosen = byTrack.get(track.id);
    if (!chosen || track.kind !== 'keys') continue;
    // A time falls into one of two neighbouring cells of a millionth of a second.
    const cells = new Set(chosen.flatMap(({ time }) => [Math.floor(time / SAME_TIME), Math.ceil(time / SAME_TIME)]));
    visit(track, ({ time }) => cells.has(Math.round(time / SAME_TIME)));
  }
}

/** “1 key”, “2 keys”. */
export const plural = (n: number) => (n === 1 ? '1 key' : `${n} keys`);

/** Deletes keys; a track without any goes too. */
export const removeKeys = defineOperation<{ clip: Id; keys: KeyRef[] }>({
  id: 'motion.remove-keys',
  title: (_, { keys }) => `Delete ${plural(keys.length)}`,
  args: Joi.object({ clip: idSchema.required(), keys: keyRefs }),
  change(kit, { clip, keys }) {
    eachTrack(kit, clip, keys, (track, isChosen) => {
      track.keys = track.keys.filter((key) => !isChosen(key));
    });
    const one = clipOf(kit, clip);
    one.tracks = one.tracks.filter((track) => track.kind !== 'keys' || track.keys.length > 0);
    return { keys: [] };
  },
});

/** How far keys go when they are moved by some seconds: what would leave the clip stops at its ends together. */
export function keyShift({ lengthSeconds }: Pick<Clip, 'lengthSeconds'>, keys: readonly KeyRef[], bySeconds: number): number {
  const times = keys.map(({ time }) => time);
  return Math.max(-Math.min(...times), Math.min(lengthSeconds - Math.max(...times), bySeconds));
}

/** Moves (or copies) keys in time. What would leave the clip stops at its ends together; a key under a moved one is replaced. */
export const moveKeys = defineOperation<{ clip: Id; keys: KeyRef[]; bySeconds: number; copy?: boolean }>({
  id: 'motion.move-keys',
  title: (_, { keys, copy }) => `${copy ? 'Copy' : 'Move'} ${plural(keys.length)}`,
  args: Joi.object({ clip: idSchema.required(), keys: keyRefs, bySeconds: Joi.number().required(), copy: Joi.boolean() }),
  change(kit, { clip, keys, bySeconds, copy }) {
    const by = keyShift(clipOf(kit, clip), keys, bySeconds);
    if (by === 0 && !copy) return { keys };
    const moved: KeyRef[] = [];
    eachTrack(kit, clip, keys, (track, isChosen) => {
      const chosen = track.keys.filter(isChosen).map((key) => ({ ...key, time: Math.max(0, Number((key.time + by).toFixed(9))) }));
      if (!copy) track.keys = track.keys.filter((key) => !isChosen(key));
      for (const key of chosen) moved.push({ track: track.id, time: insertKey(track.keys, key) });
    });
    return { keys: moved };
  },
});

/** Sets how keys go on to their next ones. */
export const setEasing = defineOperation<{ clip: Id; keys: KeyRef[]; easing: Easing }>({
  id: 'motion.set-easing',
  title: (_, { keys, easing }) => `Ease ${plural(keys.length)}: ${easing}`,
  args: Joi.object({ clip: idSchema.required(), keys: keyRefs, easing: Joi.valid(...EASINGS).required() }),
  change(kit, { clip, keys, easing }) {
    eachTrack(kit, clip, keys, (track, isChosen) => {
      for (const key of track.keys) if (isChosen(key)) key.easing = easing;
    });
  },
});

/** What a part has at a time by the keys alone, for keying it as it stands. */
export function keyValueAt(kit: Kit, clip: Id, part: Id, property: KeyProperty, axis: number, time: number): number {
  const track = findTrack(kit, clip, part, property, axis);
  return (track && sampleKeys(track, time)) ?? restValue(property);
}

/** Says tangents of keys, value a second; null lets them be chosen again so that the curve never overshoots. Left out, a side stays. */
export const setSlopes = defineOperation<{ clip: Id; keys: KeyRef[]; in?: number | null; out?: number | null }>({
  id: 'motion.set-slopes',
  title: (_, { keys, in: into, out }) => `${into === null && out === null ? 'Let go of' : 'Set'} the tangents of ${plural(keys.length)}`,
  args: Joi.object({ clip: idSchema.required(), keys: keyRefs, in: Joi.number().allow(null), out: Joi.number().allow(null) }),
  change(kit, { clip, keys, in: into, out }) {
    eachTrack(kit, clip, keys, (track, isChosen) => {
      for (const key of track.keys) {
        if (!isChosen(key)) continue;
        if (into === null) delete key.slopeIn;
        else if (into !== undefined) key.slopeIn = into;
        if (out === null) delete key.slopeOut;
        else if (out !== undefined) key.slopeOut = out;
      }
    });
  },
});
