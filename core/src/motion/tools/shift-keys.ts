import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, type Id, type Key } from '../../document';
import { clipOf } from '../clip-operations';
import { insertKey } from '../key-operations';
import { keySlopes } from '../sampler';
import { SAME_TIME, tidyTime } from '../same-time';
import { keysBetween, splitKeys } from '../split-keys';
import { number } from './chosen';

/** Where a loop's end does not meet its start, the jump takes this long, seconds. */
const JUMP = 1e-4;

/** Keys of a loop with their tangents written down where their neighbours will be others. */
function pinned(keys: readonly Key[], at: (index: number) => boolean): Key[] {
  const { slopesIn, slopesOut } = keySlopes(keys);
  return keys.map((key, i) => (at(i) ? { ...key, slopeIn: slopesIn[i], slopeOut: slopesOut[i] } : key));
}

/**
 * The same motion so much later. In a loop what leaves at the end comes in at the beginning, and the motion is the same but for its phase;
 * otherwise it is cut off there.
 *
 * @param by Seconds; earlier where negative.
 */
export function shifted(keys: readonly Key[], by: number, length: number, wrap: boolean): Key[] {
  if (keys.length === 0) return [];
  if (!wrap) {
    const later = keys.map((key) => ({ ...key, time: key.time + by }));
    return keysBetween({ keys: later }, 0, length).map((key) => ({ ...key, time: tidyTime(key.time) }));
  }
  // The time that comes to be the start.
  const cut = (((-by % length) + length) % length) + 0;
  if (cut < SAME_TIME || length - cut < SAME_TIME) return [...keys];
  const whole = keysBetween({ keys: keys as Key[] }, 0, length);
  const split = splitKeys(whole, cut);
  const k = split.findIndex((key) => Math.abs(key.time - cut) < SAME_TIME);
  const all = pinned(split, (i) => i === 0 || i === split.length - 1 || i === k || split[i].slopeIn !== undefined);
  const out: Key[] = all.slice(k).map((key) => ({ ...key, time: tidyTime(key.time - cut) }));
  const head = all.slice(0, k + 1).map((key) => ({ ...key, time: tidyTime(key.time + length - cut) }));
  const [end, start] = [out[out.length - 1], head[0]];
  if (Math.abs(end.value - start.value) < 1e-9) {
    out.pop();
    start.slopeIn = end.slopeIn;
  } else end.time = tidyTime(end.time - JUMP);
  for (const key of head) insertKey(out, key);
  return out;
}

/** The motion of some tracks, so much later. */
export const shiftTracks = defineOperation<{ clip: Id; tracks: Id[]; bySeconds: number; wrap: boolean }>({
  id: 'motion.shift',
  title: (_, { bySeconds, tracks }) =>
    `Play ${tracks.length === 1 ? 'a track' : `${tracks.length} tracks`} ${Number(Math.abs(bySeconds).toFixed(3))} s ${bySeconds < 0 ? 'earlier' : 'later'}`,
  args: Joi.object({
    clip: idSchema.required(),
    tracks: idsSchema.required(),
    bySeconds: number(3600).required(),
    wrap: Joi.boolean().required(),
  }),
  change(kit, { clip: id, tracks, bySeconds, wrap }) {
    const clip = clipOf(kit, id);
    for (const track of clip.tracks)
      if (track.kind === 'keys' && tracks.includes(track.id)) track.keys = shifted(track.keys, bySeconds, clip.lengthSeconds, wrap);
  },
});
