import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  newId,
  putArray,
  readArray,
  clipsInOrder,
  type Blobs,
  type Clip,
  type Id,
  type Key,
  type KeyTrack,
  type SampleTrack,
  type Track,
} from '../document';
import { copyOfMarks } from './clip-marks';
import { clipOf } from './clip-operations';
import { rowOf } from './cut-clip';
import { restValue } from './formula-track';
import { valueOf } from './split-keys';
import { tidyTime } from './same-time';
import { refuseFormulas } from './tools/chosen';

/** A jump takes this long, seconds. */
const JUMP = 1e-4;

/** Copies a clip beside itself under another name. */
export const duplicateClip = defineOperation<{ clip: Id; id: Id; name: string }>({
  id: 'motion.duplicate-clip',
  title: (kit, { clip }) => `Duplicate clip “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), id: idSchema.required(), name: Joi.string().min(1).max(200).required() }),
  change(kit, { clip: from, id, name }) {
    const source = clipOf(kit, from);
    const copy: Clip = { ...source, id, name, order: 0, tracks: source.tracks.map((track) => ({ ...track, id: newId() })) };
    Object.assign(copy, copyOfMarks(source));
    clipsInOrder(kit)
      .flatMap((clip) => (clip.id === from ? [clip.id, id] : [clip.id]))
      .forEach((one, order) => (one === id ? (copy.order = order) : (kit.clips[one].order = order)));
    kit.clips[id] = copy;
    return { clip: id };
  },
});

/**
 * Puts other clips behind one, and lets them go. Where a pose jumps from one to the next, it jumps within a frame; what one of them leaves
 * alone is at rest there.
 */
export const joinClips = defineOperation<{ clip: Id; others: Id[] }>({
  id: 'motion.join-clips',
  title: (kit, { clip, others }) =>
    `Join ${others.length === 1 ? `clip “${kit.clips[others[0]]?.name}”` : `${others.length} clips`} to “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), others: Joi.array().items(idSchema).min(1).max(500).unique().required() }),
  change(kit, { clip: id, others }, blobs) {
    const clip = clipOf(kit, id);
    for (const one of [id, ...others]) refuseFormulas(kit, one, 'joined');
    for (const other of others.filter((one) => one !== id)) {
      append(clip, clipOf(kit, other), blobs);
      delete kit.clips[other];
    }
  },
});

const place = (track: Track) => `${track.part} ${track.property} ${track.kind === 'keys' ? track.axis : 'dense'}`;

function append(clip: Clip, next: Clip, blobs: Blobs): void {
  const start = clip.lengthSeconds;
  const byPlace = new Map(clip.tracks.map((track) => [place(track), track]));
  for (const track of next.tracks) {
    const own = byPlace.get(place(track));
    if (track.kind === 'keys') {
      const keys = track.keys.map((key): Key => ({ ...key, time: tidyTime(key.time + start) }));
      const rest = restValue(track.property);
      const before =
        own?.kind === 'keys' ? endAt(own, start, valueOf(track.keys, 0, rest)) : [{ time: 0, value: rest, easing: 'hold' as const }];
      const lead: Key[] = keys[0].time > start + JUMP ? [{ time: start, value: keys[0].value, easing: 'hold' }] : [];
      const joined = [...before.filter((key) => key.time < (lead[0] ?? keys[0]).time - 1e-9), ...lead, ...keys];
      if (own?.kind === 'keys') own.keys = joined;
      else clip.tracks.push({ ...track, id: newId(), keys: joined });
    } else if (track.kind === 'samples') {
      const behind =
        own?.kind === 'samples' && own.interpolation === track.interpolation && own.values.size === track.values.size ? own : null;
      const later = shiftedSamples(track, start, blobs);
      if (behind) Object.assign(behind, behindOne(behind, later, start, blobs));
      else clip.tracks.push({ ...later, id: newId() });
    }
  }
  // What the next clip does not move goes back to rest.
  const moved = new Set(next.tracks.map(place));
  for (const track of clip.tracks)
    if (track.kind === 'keys' && byPlace.has(place(track)) && !moved.has(place(track)))
      track.keys = [...endAt(track, start, restValue(track.property)), { time: start, value: restValue(track.property), easing: 'hold' }];
  const later = <T extends { id: Id; time: number }>(list: T[] | undefined) =>
    (list ?? []).map((one) => ({ ...one, id: newId(), time: tidyTime(one.time + start) }));
  if (clip.cues || next.cues) clip.cues = [...(clip.cues ?? []), ...later(next.cues)];
  if (clip.flags || next.flags) clip.flags = [...(clip.flags ?? []), ...later(next.flags)];
  clip.lengthSeconds = tidyTime(start + next.lengthSeconds);
}

/** Keys that hold what they end with until just before a time, unless the next value is the same. */
function endAt(track: KeyTrack, start: number, next: number): Key[] {
  const keys = track.keys.filter((key) => key.time <= start + 1e-9).map((key) => ({ ...key }));
  const last = keys[keys.length - 1];
  if (!last) return [{ time: 0, value: valueOf(track.keys, 0, restValue(track.property)), easing: 'hold' }];
  if (Math.abs(last.value - next) < 1e-9 && Math.abs(last.time - start) < 1e-6) return keys;
  if (last.time > start - JUMP) {
    last.time = tidyTime(start - JUMP);
    last.easing = 'hold';
  } else last.easing = 'hold';
  return keys;
}

function shiftedSamples(track: SampleTrack, start: number, blobs: Blobs): SampleTrack {
  return {
    ...track,
    times: putArray(
      blobs,
      readArray<Float32Array>(blobs, track.times).map((time) => time + start),
      1,
    ),
  };
}

function behindOne(before: SampleTrack, after: SampleTrack, start: number, blobs: Blobs): Pick<SampleTrack, 'times' | 'values'> {
  const times = readArray<Float32Array>(blobs, before.times).filter((time) => time < start - JUMP);
  const stride = before.values.size * (before.interpolation === 'curve' ? 3 : 1);
  const kept = readArray<Float32Array>(blobs, before.values).subarray(0, times.length * stride);
  const end = rowOf(before, start, blobs);
  const values = new Float32Array(kept.length + end.length + after.values.count * after.values.size);
  values.set(kept);
  values.set(end, kept.length);
  values.set(readArray<Float32Array>(blobs, after.values), kept.length + end.length);
  return {
    times: putArray(blobs, Float32Array.from([...times, start - JUMP, ...readArray<Float32Array>(blobs, after.times)]), 1),
    values: putArray(blobs, values, before.values.size),
  };
}
