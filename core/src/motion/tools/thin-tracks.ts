import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  idsSchema,
  newId,
  partOf,
  readArray,
  type Blobs,
  type Clip,
  type Id,
  type Key,
  type KeyProperty,
  type KeyTrack,
  type Kit,
  type Quat,
  type SampleTrack,
  type Track,
  type Vec3,
} from '../../document';
import { reachOf, restWorlds, turnNearest } from '../../geometry';
import { clipOf } from '../clip-operations';
import { rowOf } from '../cut-clip';
import { easingCorners } from '../easing';
import { frames } from '../frames';
import { formulaOf, formulaValue, restValue } from '../formula';
import type { Tolerance } from '../local-limits';
import { trackLength } from '../track-times';
import { valueOf } from '../split-keys';
import { number } from './chosen';
import { curveKeys, straightKeys } from './fit-keys';

/** How far off is allowed: metres and degrees. */
export const toleranceArgs = { metres: Joi.number().greater(0).max(1000).required(), degrees: Joi.number().greater(0).max(180).required() };

/** How far a value of a track may be off so that neither the turn nor the furthest vertex is further off, in its own unit. */
export function allowance(property: KeyProperty, reach: number, { metres, degrees }: Tolerance): number {
  if (property === 'offset') return metres;
  if (property === 'turn') return reach > 0 ? Math.min(degrees, ((metres / reach) * 180) / Math.PI) : degrees;
  return property === 'size' && reach > 0 ? metres / reach : 1e-3;
}

/** Dense samples of one number. */
interface Samples {
  property: KeyProperty;
  axis: number;
  times: number[];
  values: number[];
}

/** Between two samples motion may be off by a little more than at them. */
const MARGIN = 0.92;

/** Samples a second of what has no samples of its own. */
const DENSE = 480;
/** Samples between two keys at least. */
const PIECES = 64;

/** A track as numbers over time, close enough together for any of its easings. */
export function samplesOf(kit: Kit, clip: Clip, track: Track, blobs: Blobs): Samples[] {
  if (track.kind === 'samples') return denseSamples(kit, track, blobs);
  const even = frames(0, clip.lengthSeconds, 1 / DENSE);
  if (track.kind === 'formula') {
    const formula = formulaOf(track, clip.constants);
    return [
      {
        property: track.property,
        axis: track.axis,
        times: even,
        values: even.map((time) => formulaValue(formula, track.gain, restValue(track.property), time, clip.lengthSeconds)),
      },
    ];
  }
  const corners = track.keys.flatMap((key, i) => {
    const next = track.keys[i + 1];
    if (!next) return [key.time];
    const span = next.time - key.time;
    if (key.easing === 'hold') return [key.time, next.time - 1e-4];
    // A short way may have as many bends as a long one.
    const between =
      key.easing === 'straight' || span * DENSE > PIECES
        ? []
        : Array.from({ length: PIECES - 1 }, (_, n) => key.time + (span * (n + 1)) / PIECES);
    return [key.time, ...easingCorners(key.easing).map((u) => key.time + u * span), ...between];
  });
  const ends = [track.keys[0].time, track.keys[track.keys.length - 1].time];
  const times = [...new Set([...corners, ...even.filter((time) => time > ends[0] && time < ends[1])])]
    .sort((a, b) => a - b)
    .filter((time, i, all) => i === 0 || time - all[i - 1] > 5e-5);
  return [{ property: track.property, axis: track.axis, times, values: times.map((time) => valueOf(track.keys, time, 0)) }];
}

function denseSamples(kit: Kit, track: SampleTrack, blobs: Blobs): Samples[] {
  const own = [...readArray<Float32Array>(blobs, track.times)];
  const curve = track.interpolation === 'curve';
  const times = curve ? [...new Set([...own, ...frames(own[0], own[own.length - 1], 1 / DENSE)])].sort((a, b) => a - b) : own;
  const width = track.values.size;
  const all = readArray<Float32Array>(blobs, track.values);
  const rows = times.map((time, i) => {
    const from = curve ? rowOf(track, time, blobs) : all;
    const at = curve ? width : i * width;
    const row: number[] = [];
    for (let k = 0; k < width; k++) row.push(from[at + k]);
    return row;
  });
  if (track.property === 'rotation') {
    const { turnOrder } = partOf(kit, track.part);
    let near: Vec3 = [0, 0, 0];
    const turns = rows.map((q) => (near = turnNearest(q as Quat, turnOrder, near)));
    return [0, 1, 2].map((axis) => ({ property: 'turn' as const, axis, times, values: turns.map((turn) => turn[axis]) }));
  }
  const property = track.property === 'weights' ? 'weight' : track.property;
  return rows[0].map((_, axis) => ({ property, axis, times, values: rows.map((one) => one[axis]) }));
}

/** Degrees between two keys at most: the short way round is the right one then. */
const MOST_TURN = 85;

function dividedTurns(keys: readonly Key[]): Key[] {
  return keys.flatMap((key, i): Key[] => {
    const next = keys[i + 1];
    const pieces = next ? Math.max(1, Math.ceil(Math.abs(next.value - key.value) / MOST_TURN)) : 1;
    return Array.from({ length: pieces }, (_, n) =>
      n === 0
        ? key
        : { ...key, time: key.time + ((next.time - key.time) * n) / pieces, value: key.value + ((next.value - key.value) * n) / pieces },
    );
  });
}

/** Keys for samples, within an allowance; one where nothing moves. */
function keysFor({ property, times, values }: Samples, within: number, fit: 'straight' | 'curve'): Key[] {
  if (values.every((value) => Math.abs(value - values[0]) < 1e-9)) return [{ time: times[0], value: values[0], easing: 'hold' }];
  if (fit === 'curve') return curveKeys(times, values, within);
  const keys = straightKeys(times, values, within);
  return property === 'turn' ? dividedTurns(keys) : keys;
}

/**
 * Fewer keys for the same motion: dense tracks, formulas and close keys become keys with lines or curves in between, measured at the
 * furthest vertex below the part. A dense rotation becomes turns about the own axes. The motion of other tracks of the same part is not
 * added in.
 */
export const thinTracks = defineOperation<{ clip: Id; tracks: Id[]; fit: 'straight' | 'curve' } & Tolerance>({
  id: 'motion.thin',
  title: (kit, { clip, tracks, fit }) =>
    `Thin ${tracks.length === 1 ? 'a track' : `${tracks.length} tracks`} of “${kit.clips[clip]?.name}” to ${fit === 'straight' ? 'straight keys' : 'curves'}`,
  args: Joi.object({
    clip: idSchema.required(),
    tracks: idsSchema.required(),
    fit: Joi.valid('straight', 'curve').required(),
    ...toleranceArgs,
  }),
  change(kit, { clip: id, tracks, fit, ...tolerance }, blobs) {
    const clip = clipOf(kit, id);
    const chosen = new Set(tracks);
    const reaches = new Map<Id, number>();
    const worlds = restWorlds(kit);
    const made: Track[] = [];
    for (const track of clip.tracks) {
      if (!chosen.has(track.id) || (track.kind !== 'formula' && trackLength(track) === 0)) {
        made.push(track);
        continue;
      }
      const reach = reaches.get(track.part) ?? reachOf(kit, blobs, track.part, worlds);
      reaches.set(track.part, reach);
      const samples = samplesOf(kit, clip, track, blobs);
      const moving = samples.filter(({ values }) => values.some((value) => Math.abs(value - values[0]) > 1e-9)).length;
      for (const one of samples) {
        const rest = restValue(one.property);
        if (one.property !== 'weight' && one.values.every((value) => Math.abs(value - rest) < 1e-9)) continue;
        // Errors of several axes add up.
        const within = (MARGIN * allowance(one.property, reach, tolerance)) / Math.max(1, moving);
        const thin: KeyTrack = {
          kind: 'keys',
          id: newId(),
          part: track.part,
          property: one.property,
          axis: one.axis,
          keys: keysFor(one, within, fit),
        };
        made.push(track.kind === 'keys' && thin.keys.length > track.keys.length && fit === 'curve' ? track : thin);
      }
    }
    clip.tracks = made;
  },
});

/**
 * Writes a motion that was recorded: smoothed over a time, then thinned.
 * @param values Three numbers a sample: an offset in metres or a turn in degrees, from rest.
 */
export const writeRecording = defineOperation<
  { clip: Id; part: Id; property: 'offset' | 'turn'; times: number[]; values: number[]; smoothSeconds: number } & Tolerance
>({
  id: 'motion.write-recording',
  title: (kit, { part, times }) => `Write ${times.length} recorded places of “${kit.parts[part]?.name}”`,
  args: Joi.object({
    clip: idSchema.required(),
    part: idSchema.required(),
    property: Joi.valid('offset', 'turn').required(),
    times: Joi.array().items(Joi.number().min(0)).min(2).max(100_000).required(),
    values: Joi.array().items(number()).max(300_000).required(),
    smoothSeconds: Joi.number().min(0).max(10).required(),
    ...toleranceArgs,
  }),
  change(kit, { clip: id, part, property, times, values, smoothSeconds, ...tolerance }, blobs) {
    const clip = clipOf(kit, id);
    partOf(kit, part);
    const order = times.map((_, i) => i).filter((i) => i === 0 || times[i] > times[i - 1]);
    const own = order.map((i) => times[i]);
    const [first, last] = [own[0], own[own.length - 1]];
    const within = allowance(property, reachOf(kit, blobs, part), tolerance) / 3;
    for (const axis of [0, 1, 2]) {
      const smooth = gaussian(
        own,
        order.map((i) => values[3 * i + axis]),
        smoothSeconds,
      );
      const existing = clip.tracks.find(
        (track): track is KeyTrack => track.kind === 'keys' && track.part === part && track.property === property && track.axis === axis,
      );
      if (!existing && smooth.every((value) => Math.abs(value) < 1e-6)) continue;
      const keys = keysFor({ property, axis, times: own, values: smooth }, within, 'curve');
      if (existing)
        existing.keys = [...existing.keys.filter(({ time }) => time < first || time > last), ...keys].sort((a, b) => a.time - b.time);
      else clip.tracks.push({ kind: 'keys', id: newId(), part, property, axis, keys });
    }
    clip.lengthSeconds = Math.max(clip.lengthSeconds, last);
  },
});

/** Values smoothed with a bell of a width in time; the ends stay where they are. */
export function gaussian(times: readonly number[], values: readonly number[], seconds: number): number[] {
  if (seconds <= 0) return [...values];
  let low = 0;
  return values.map((value, i) => {
    // The bell narrows towards the ends, so that what begins still begins there.
    const width = Math.min(seconds, times[i] - times[0], times[times.length - 1] - times[i]);
    if (width <= 0) return value;
    while (times[low] < times[i] - 3 * seconds) low++;
    let [sum, weight] = [0, 0];
    for (let j = low; j < times.length && times[j] <= times[i] + 3 * width; j++) {
      const w = Math.exp(-0.5 * ((times[j] - times[i]) / width) ** 2);
      sum += w * values[j];
      weight += w;
    }
    return sum / weight;
  });
}
