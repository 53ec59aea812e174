import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  putArray,
  readArray,
  type Blobs,
  type Clip,
  type Id,
  type KeyTrack,
  type Quat,
  type SampleTrack,
} from '../../document';
import { normalizeQuat, slerpQuats } from '../../geometry';
import { dropMarksAfter } from '../clip-marks';
import { clipOf } from '../clip-operations';
import { rowOf } from '../cut-clip';
import { frames } from '../frames';
import { keysBetween, valueOf } from '../split-keys';
import { SAME_TIME, tidyTime } from '../same-time';
import { restValue } from '../formula-track';
import { trackTimes } from '../track-times';
import { refuseFormulas, ToolError } from './chosen';

/** Last time at which a clip has a key or a sample, seconds; 0 where it has none. */
export function lastKeyTime(clip: Clip, blobs: Blobs): number {
  return Math.max(0, ...clip.tracks.map((track) => [...trackTimes(track, blobs)].at(-1) ?? 0));
}

function endsAsItBegins(clip: Clip, time: number, blobs: Blobs): boolean {
  return clip.tracks.every((track) => {
    if (track.kind === 'keys') return Math.abs(valueOf(track.keys, 0, 0) - valueOf(track.keys, time, 0)) < 1e-6;
    if (track.kind === 'formula') return true;
    const [a, b] = [rowOf(track, 0, blobs), rowOf(track, time, blobs)];
    return a.every((value, i) => Math.abs(value - b[i]) < 1e-5);
  });
}

/**
 * Closes a loop: the pose of its start is set once more, one frame after its last key, and there it ends. Where the last key is that pose
 * already, the clip ends on it.
 */
export const closeLoop = defineOperation<{ clip: Id }>({
  id: 'motion.close-loop',
  title: (kit, { clip }) => `Close the loop of “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required() }),
  change(kit, { clip: id }, blobs) {
    const clip = clipOf(kit, id);
    refuseFormulas(kit, id, 'closed');
    const last = lastKeyTime(clip, blobs);
    if (last === 0) throw new ToolError(`“${clip.name}” has no keys after its start, so there is no loop to close. Key something first.`);
    const end = endsAsItBegins(clip, last, blobs) ? last : tidyTime(last + 1 / clip.rate);
    for (const track of clip.tracks) {
      if (track.kind === 'keys') closeKeys(track, end);
      else if (track.kind === 'samples') closeSamples(track, end, blobs);
    }
    const told = dropMarksAfter(clip, end);
    clip.lengthSeconds = end;
    clip.loop = 'loop';
    return { told };
  },
});

function closeKeys(track: KeyTrack, end: number): void {
  const value = valueOf(track.keys, 0, restValue(track.property));
  const last = track.keys[track.keys.length - 1];
  if (Math.abs(last.time - end) < SAME_TIME) last.value = value;
  else track.keys.push({ time: end, value, easing: last.easing });
}

function closeSamples(track: SampleTrack, end: number, blobs: Blobs): void {
  const times = readArray<Float32Array>(blobs, track.times);
  const values = readArray<Float32Array>(blobs, track.values);
  const first = rowOf(track, 0, blobs);
  const kept = [...times].filter((time) => time < end - SAME_TIME).length;
  const out = new Float32Array((kept + 1) * first.length);
  out.set(values.subarray(0, kept * first.length));
  out.set(first, kept * first.length);
  track.times = putArray(blobs, Float32Array.from([...times.subarray(0, kept), end]), 1);
  track.values = putArray(blobs, out, track.values.size);
}

/** Ends a clip at its last key. */
export const trimTail = defineOperation<{ clip: Id }>({
  id: 'motion.trim-tail',
  title: (kit, { clip }) => `End “${kit.clips[clip]?.name}” at its last key`,
  args: Joi.object({ clip: idSchema.required() }),
  change(kit, { clip: id }, blobs) {
    const clip = clipOf(kit, id);
    refuseFormulas(kit, id, 'trimmed to a key');
    const last = lastKeyTime(clip, blobs);
    if (last <= 0) throw new ToolError(`“${clip.name}” has no keys after its start. Key something first.`);
    clip.lengthSeconds = Number(last.toPrecision(9));
    return { told: dropMarksAfter(clip, last) };
  },
});

/**
 * Mends a seam over the last or the first so many seconds of a clip.
 *
 * `spread` adds what is missing at the end, from nothing to all of it. `fade` lets the clip end so much earlier and blends what came after
 * that end into its beginning, so that place and speed meet (Kovar, Gleicher & Pighin 2002). Both write a key a frame there.
 */
export const mendSeam = defineOperation<{ clip: Id; by: 'fade' | 'spread'; seconds: number }>({
  id: 'motion.mend-seam',
  title: (kit, { clip, by }) => `Mend the seam of “${kit.clips[clip]?.name}” by ${by === 'fade' ? 'fading over' : 'spreading it'}`,
  args: Joi.object({
    clip: idSchema.required(),
    by: Joi.valid('fade', 'spread').required(),
    seconds: Joi.number().greater(0).max(3600).required(),
  }),
  change(kit, { clip: id, by, seconds }, blobs) {
    const clip = clipOf(kit, id);
    refuseFormulas(kit, id, 'mended');
    const { lengthSeconds: length } = clip;
    if (seconds > length / 2 + SAME_TIME)
      throw new ToolError(`The seam of “${clip.name}” can be mended over half of it at most, ${(length / 2).toFixed(2)} s.`);
    const frame = 1 / clip.rate;
    const end = by === 'fade' ? tidyTime(length - seconds) : length;
    const span = by === 'fade' ? [0, seconds] : [length - seconds, length];
    const times = frames(span[0], span[1], frame);
    for (const track of clip.tracks) {
      if (track.kind === 'keys') {
        const at = (time: number) => valueOf(track.keys, time, restValue(track.property));
        const miss = at(0) - at(length);
        const made = times.map((time) => {
          const u = smooth((time - span[0]) / seconds);
          return {
            time,
            value: by === 'fade' ? (1 - u) * at(end + time) + u * at(time) : at(time) + u * miss,
            easing: 'straight' as const,
          };
        });
        // What is outside of the span keeps its way, tangents and all.
        const kept = by === 'fade' ? keysBetween(track, span[1], end) : keysBetween(track, 0, span[0]);
        const keys =
          by === 'fade'
            ? [...made.slice(0, -1), ...kept]
            : [...kept.slice(0, -1), { ...kept[kept.length - 1], easing: 'straight' as const }, ...made.slice(1)];
        track.keys = keys.map((key) => ({ ...key, time: tidyTime(key.time) }));
      } else if (track.kind === 'samples') mendSamples(track, by, span as [number, number], end, length, frame, blobs);
    }
    clip.lengthSeconds = end;
    return { told: dropMarksAfter(clip, end) };
  },
});

/** The nearest float to a time that does not lie after the end, seconds: what is held is to be reached there. */
function floatUpTo(time: number, end: number): number {
  const near = Math.fround(time);
  return near > end ? Math.fround(end * (1 - 1e-7)) : near;
}

const smooth = (u: number) => u * u * (3 - 2 * u);

function mendSamples(
  track: SampleTrack,
  by: 'fade' | 'spread',
  [from, to]: [number, number],
  end: number,
  length: number,
  frame: number,
  blobs: Blobs,
): void {
  const width = track.values.size;
  const lead = track.interpolation === 'curve' ? width : 0;
  const at = (time: number) => {
    const row = [...rowOf(track, time, blobs).subarray(lead, lead + width)];
    return track.property === 'rotation' ? normalizeQuat(row as Quat) : row;
  };
  const times = [
    ...new Set(
      [...trackTimes(track, blobs), ...frames(0, end, frame), ...frames(from, to, frame)]
        .filter((time) => time <= end + SAME_TIME)
        .map((time) => floatUpTo(time, end)),
    ),
  ]
    .sort((a, b) => a - b)
    .filter((time, i, all) => i === 0 || time - all[i - 1] > 1e-5);
  const [start, last] = [at(0), at(length)];
  const mix = (a: number[], b: number[], u: number) =>
    track.property === 'rotation' ? slerpQuats(a as never, b as never, u) : a.map((value, i) => value + u * (b[i] - value));
  const rows = times.map((time) => {
    const own = at(time);
    if (time < from - SAME_TIME || time > to + SAME_TIME) return own;
    const u = smooth(Math.min(1, Math.max(0, (time - from) / (to - from))));
    if (by === 'fade') return mix(at(end + time), own, u);
    if (track.property !== 'rotation') return own.map((value, i) => value + u * (start[i] - last[i]));
    return mix(own, start, u);
  });
  track.interpolation = track.interpolation === 'hold' ? 'hold' : 'straight';
  track.times = putArray(blobs, Float32Array.from(times), 1);
  track.values = putArray(blobs, Float32Array.from(rows.flat()), width);
}
