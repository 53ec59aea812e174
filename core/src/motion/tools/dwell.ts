import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  putArray,
  readArray,
  type Blobs,
  type Id,
  type Key,
  type KeyTrack,
  type SampleTrack,
} from '../../document';
import { moveMarks } from '../clip-marks';
import { clipOf } from '../clip-operations';
import { cutSamples } from '../cut-clip';
import { keySlopes } from '../sampler';
import { SAME_TIME, tidyTime } from '../same-time';
import { splitKeys } from '../split-keys';
import { refuseFormulas, seconds } from './chosen';

/** Everything in a clip stands still at a time for so long; what comes later, cues and flags too, is put off, and the clip grows. */
export const dwell = defineOperation<{ clip: Id; time: number; seconds: number }>({
  id: 'motion.dwell',
  title: (_, { time, seconds: by }) => `Dwell at ${time.toFixed(2)} s for ${Number(by.toFixed(3))} s`,
  args: Joi.object({ clip: idSchema.required(), time: Joi.number().min(0).required(), seconds: seconds.required() }),
  change(kit, { clip: id, time, seconds: by }, blobs) {
    const clip = clipOf(kit, id);
    refuseFormulas(kit, id, 'held');
    for (const track of clip.tracks) {
      if (track.kind === 'keys') track.keys = holdKeys(track, time, by);
      else if (track.kind === 'samples') Object.assign(track, holdSamples(track, time, by, blobs));
    }
    const told = moveMarks(clip, (later) => later + by, time);
    clip.lengthSeconds = tidyTime(clip.lengthSeconds + by);
    return { told };
  },
});

function holdKeys(track: KeyTrack, time: number, by: number): Key[] {
  const ends = track.keys.length === 0 ? [0, 0] : [track.keys[0].time, track.keys[track.keys.length - 1].time];
  const put = (key: Key): Key => ({ ...key, time: tidyTime(key.time + by) });
  if (time <= ends[0] + SAME_TIME) return track.keys.map(put);
  if (time >= ends[1] - SAME_TIME) return track.keys;
  const keys = splitKeys(track.keys, time);
  const i = keys.findIndex((key) => Math.abs(key.time - time) < SAME_TIME);
  const { slopesIn, slopesOut } = keySlopes(keys);
  const [held, on]: Key[] = [{ ...keys[i], easing: 'hold' }, put(keys[i])];
  // It comes to the key and leaves it as it did.
  if (keys[i - 1].easing === 'curve') held.slopeIn = slopesIn[i];
  if (keys[i].easing === 'curve') on.slopeOut = slopesOut[i];
  return [...keys.slice(0, i), held, on, ...keys.slice(i + 1).map(put)];
}

function holdSamples(track: SampleTrack, time: number, by: number, blobs: Blobs): Pick<SampleTrack, 'times' | 'values'> {
  const times = readArray<Float32Array>(blobs, track.times);
  const last = times[times.length - 1];
  if (time >= last - SAME_TIME || times.length === 0) return track;
  if (time <= times[0] + SAME_TIME)
    return {
      times: putArray(
        blobs,
        Float32Array.from(times, (one) => one + by),
        1,
      ),
      values: track.values,
    };
  const [before, after] = [cutSamples(track, 0, time, blobs)!, cutSamples(track, time, last, blobs)!];
  const width = track.values.size;
  const [a, b] = [readArray<Float32Array>(blobs, before.values).slice(), readArray<Float32Array>(blobs, after.values).slice()];
  if (track.interpolation === 'curve') {
    a.fill(0, a.length - width);
    b.fill(0, 0, width);
  }
  const joined = new Float32Array(a.length + b.length);
  joined.set(a);
  joined.set(b, a.length);
  const own = [
    ...readArray<Float32Array>(blobs, before.times),
    ...readArray<Float32Array>(blobs, after.times).map((one) => one + time + by),
  ];
  return { times: putArray(blobs, Float32Array.from(own), 1), values: putArray(blobs, joined, width) };
}
