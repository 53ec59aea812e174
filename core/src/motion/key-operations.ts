import Joi from 'joi';
import { defineOperation, EASINGS, idSchema, KEY_PROPERTIES, KitError, newId, partOf, type Axis, type Easing, type Id, type Key, type KeyProperty, type KeyTrack, type Kit } from '../document';
import { clipOf } from './clip-operations';
import { sampleKeys } from './sampler';

/** Keys closer than this are at the same time, seconds. */
export const SAME_TIME = 1e-6;

export class OutsideClipError extends KitError {
  constructor(time: number, length: number) {
    super('outside-clip', `${time.toFixed(3)} s is outside the clip, which is ${length.toFixed(3)} s long. Lengthen the clip first, or choose an earlier time.`);
  }
}

/** Rest's value of a property: what a part has where no key says otherwise. */
export function restValue(property: KeyProperty): number {
  return property === 'size' ? 1 : 0;
}

export function findTrack(kit: Kit, clip: Id, part: Id, property: KeyProperty, axis: Axis): KeyTrack | undefined {
  return clipOf(kit, clip).tracks.find((track): track is KeyTrack => track.kind === 'keys' && track.part === part && track.property === property && track.axis === axis);
}

export interface KeyValue {
  part: Id;
  property: KeyProperty;
  axis: Axis;
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
      .items(Joi.object({ part: idSchema.required(), property: Joi.valid(...KEY_PROPERTIES).required(), axis: Joi.valid(0, 1, 2).required(), value: Joi.number().required() }))
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
      insertKey(track.keys, { time, value, easing: easing ?? easingAt(track.keys, time) });
    }
  },
});

function easingAt(keys: Key[], time: number): Easing {
  const before = keys.filter((key) => key.time <= time + SAME_TIME).at(-1);
  return before?.easing ?? keys[0]?.easing ?? 'curve';
}

function insertKey(keys: Key[], key: Key): void {
  const same = keys.findIndex((other) => Math.abs(other.time - key.time) < SAME_TIME);
  if (same >= 0) {
    keys[same] = { ...key, time: keys[same].time };
    return;
  }
  const place = keys.findIndex((other) => other.time > key.time);
  keys.splice(place < 0 ? keys.length : place, 0, key);
}

/** A key by its track and the time where it stands, seconds. */
export interface KeyRef {
  track: Id;
  time: number;
}

const keyRefs = Joi.array()
  .items(Joi.object({ track: idSchema.required(), time: Joi.number().required() }))
  .min(1)
  .required();

function eachTrack(kit: Kit, clipId: Id, refs: KeyRef[], visit: (track: KeyTrack, isChosen: (key: Key) => boolean) => void): void {
  const clip = clipOf(kit, clipId);
  for (const id of new Set(refs.map((ref) => ref.track))) {
    const track = clip.tracks.find((one): one is KeyTrack => one.id === id && one.kind === 'keys');
    if (!track) continue;
    const times = refs.filter((ref) => ref.track === id).map((ref) => ref.time);
    visit(track, (key) => times.some((time) => Math.abs(time - key.time) < SAME_TIME));
  }
}

const plural = (n: number) => (n === 1 ? '1 key' : `${n} keys`);

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
  },
});

/** Moves (or copies) keys in time. What would leave the clip stops at its ends together; a key under a moved one is replaced. */
export const moveKeys = defineOperation<{ clip: Id; keys: KeyRef[]; bySeconds: number; copy?: boolean }>({
  id: 'motion.move-keys',
  title: (_, { keys, copy }) => `${copy ? 'Copy' : 'Move'} ${plural(keys.length)}`,
  args: Joi.object({ clip: idSchema.required(), keys: keyRefs, bySeconds: Joi.number().required(), copy: Joi.boolean() }),
  change(kit, { clip, keys, bySeconds, copy }) {
    const { lengthSeconds } = clipOf(kit, clip);
    const earliest = Math.min(...keys.map((key) => key.time));
    const latest = Math.max(...keys.map((key) => key.time));
    const by = Math.max(-earliest, Math.min(lengthSeconds - latest, bySeconds));
    eachTrack(kit, clip, keys, (track, isChosen) => {
      const chosen = track.keys.filter(isChosen).map((key) => ({ ...key, time: Math.max(0, Number((key.time + by).toFixed(9))) }));
      if (!copy) track.keys = track.keys.filter((key) => !isChosen(key));
      for (const key of chosen) insertKey(track.keys, key);
    });
  },
});

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
export function keyValueAt(kit: Kit, clip: Id, part: Id, property: KeyProperty, axis: Axis, time: number): number {
  const track = findTrack(kit, clip, part, property, axis);
  return (track && sampleKeys(track, time)) ?? restValue(property);
}
