import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, newId, clipsInOrder, type Id, type Key } from '../document';
import { clipOf } from './clip-operations';
import { SAME_TIME } from './same-time';
import { sampleKeys } from './sampler';

/** Puts a clip at a place in the list, from 0. */
export const placeClip = defineOperation<{ clip: Id; place: number }>({
  id: 'motion.place-clip',
  title: (kit, { clip, place }) =>
    place === 0 ? `Put clip “${kit.clips[clip]?.name}” first` : `Move clip “${kit.clips[clip]?.name}” in the list`,
  args: Joi.object({ clip: idSchema.required(), place: Joi.number().integer().min(0).required() }),
  change(kit, { clip, place }) {
    const moved = clipOf(kit, clip);
    const others = clipsInOrder(kit).filter((one) => one.id !== clip);
    others.splice(place, 0, moved);
    others.forEach((one, order) => (kit.clips[one.id].order = order));
  },
});

/** Adds a clip of one frame that moves nothing, in front of all others. */
export const addRestClip = defineOperation<{ id?: Id; name: string; rate: number }>({
  id: 'motion.add-rest-clip',
  title: (_, { name }) => `Add the rest clip “${name}” in front`,
  args: Joi.object({ id: idSchema, name: Joi.string().min(1).max(200).required(), rate: Joi.number().min(1).max(240).required() }),
  change(kit, { id = newId(), name, rate }) {
    clipsInOrder(kit).forEach((clip, i) => (kit.clips[clip.id].order = i + 1));
    kit.clips[id] = { id, name, order: 0, lengthSeconds: 1 / rate, rate, loop: 'hold', tracks: [] };
    return { clip: id };
  },
});

/** Deletes tracks of a clip. */
export const removeTracks = defineOperation<{ clip: Id; tracks: Id[] }>({
  id: 'motion.remove-tracks',
  title: (kit, { clip, tracks }) => `Delete ${tracks.length === 1 ? 'a track' : `${tracks.length} tracks`} of “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), tracks: idsSchema.required() }),
  change(kit, { clip, tracks }) {
    const one = clipOf(kit, clip);
    one.tracks = one.tracks.filter((track) => !tracks.includes(track.id));
  },
});

/** Every sparse track ends with the value with which it begins: its key at the end is set so, or made. */
export const meetSeam = defineOperation<{ clip: Id }>({
  id: 'motion.meet-seam',
  title: (kit, { clip }) => `Let “${kit.clips[clip]?.name}” end where it begins`,
  args: Joi.object({ clip: idSchema.required() }),
  change(kit, { clip }) {
    const { lengthSeconds, tracks } = clipOf(kit, clip);
    for (const track of tracks) {
      if (track.kind !== 'keys' || track.keys.length === 0) continue;
      const value = sampleKeys(track, 0)!;
      const last = track.keys[track.keys.length - 1];
      if (Math.abs(last.time - lengthSeconds) < SAME_TIME) last.value = value;
      else if (last.time < lengthSeconds) track.keys.push({ time: lengthSeconds, value, easing: last.easing });
    }
  },
});

/** Sets keys between those that lie further apart in turn than so many degrees, on their straight way: nothing moves otherwise. */
export const divideTurns = defineOperation<{ clip: Id; mostDegrees: number }>({
  id: 'motion.divide-turns',
  title: (kit, { clip }) => `Set keys in the long turns of “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), mostDegrees: Joi.number().min(1).max(179).required() }),
  change(kit, { clip, mostDegrees }) {
    for (const track of clipOf(kit, clip).tracks) {
      if (track.kind !== 'keys' || track.property !== 'turn') continue;
      const keys: Key[] = [];
      track.keys.forEach((key, i) => {
        keys.push(key);
        const next = track.keys[i + 1];
        if (!next || key.easing !== 'straight') return;
        const pieces = Math.ceil(Math.abs(next.value - key.value) / mostDegrees - 1e-9);
        for (let n = 1; n < pieces; n++) {
          const u = n / pieces;
          keys.push({ time: key.time + u * (next.time - key.time), value: key.value + u * (next.value - key.value), easing: 'straight' });
        }
      });
      track.keys = keys;
    }
  },
});
