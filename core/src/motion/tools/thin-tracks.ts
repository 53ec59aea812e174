import Joi from 'joi';
import {
  asItIs,
  defineOperation,
  idSchema,
  idsSchema,
  newId,
  partOf,
  type Clip,
  type Blobs,
  type Id,
  type KeyProperty,
  type KeyTrack,
  type Kit,
  type Track,
} from '../../document';
import { MeasuredVertices, reachOf } from '../../geometry';
import { clipOf } from '../clip-operations';
import { restValue } from '../formula-track';
import { localLimits, type LocalLimits, type Tolerance } from '../local-limits';
import { PoseDifference, poseOfClip, timesBetween, tooFarOff } from '../pose-difference';
import { trackLength, trackTimes } from '../track-times';
import { number } from './chosen';
import { curveKeys } from './fit-keys';
import { keysFor, samplesOf, type Samples } from './thin-samples';

/** How far off is allowed: metres and degrees. */
export const toleranceArgs = { metres: Joi.number().greater(0).max(1000).required(), degrees: Joi.number().greater(0).max(180).required() };

/** How far a value of a track may be off so that neither the turn nor the furthest vertex is further off, in its own unit. */
export function allowance(property: KeyProperty, reach: number, { metres, degrees }: Tolerance): number {
  if (property === 'offset') return metres;
  if (property === 'turn') return reach > 0 ? Math.min(degrees, ((metres / reach) * 180) / Math.PI) : degrees;
  return property === 'size' && reach > 0 ? metres / reach : 1e-3;
}

/** Between two samples motion may be off by a little more than at them. */
const MARGIN = 0.92;
/** Of the tolerance, at the times that are looked at. */
const NEAR_ENOUGH = 0.93;
/** Rounds of measuring the whole and fitting again, finer. */
const MOST_ROUNDS = 9;
/** At the most so many times are looked at in a round. */
const MOST_LOOKS = 2400;
/** What does not keep within the tolerance with a finer share than this is left as it was. */
const LEAST_SHARE = 0.02;
/** A step is no way between two keys. */
const LEAST_GAP = 1e-4;

/**
 * Fewer keys for the same motion: dense tracks, formulas and close keys become keys with lines or curves in between. Each number keeps
 * within its share, and the whole is measured in the world, as rotations and at every vertex, deformed ones too, with all that is above;
 * what is too far off is fitted again, finer, and where nothing does it stays as it was. Steps stay steps. A dense rotation becomes turns
 * about the own axes.
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
  change(draft, { clip: id, tracks, fit, ...tolerance }, blobs) {
    const kit = asItIs(draft);
    const clip = clipOf(kit, id);
    const chosen = new Set(tracks);
    const vertices = new MeasuredVertices(kit, blobs);
    const limits = localLimits(kit, clip, blobs, vertices, tolerance);
    const before = poseOfClip(kit, clip, blobs);
    const share = new Map<Id, number>();
    let made: Track[] = [];
    for (let round = 0; round < MOST_ROUNDS; round++) {
      made = clip.tracks.flatMap((track) =>
        chosen.has(track.id) ? thinned(kit, clip, track, fit, limits.get(track.part)!, share.get(track.part) ?? 1, blobs) : [track],
      );
      const difference = new PoseDifference(vertices, before, poseOfClip(kit, { ...clip, tracks: made }, blobs), limits);
      for (const time of looksBetween([...clip.tracks, ...made], blobs, round)) difference.look(time);
      const moving = clip.tracks.filter((track) => chosen.has(track.id)).map(({ part }) => part);
      const beyond = tooFarOff(kit, difference, moving, tolerance, NEAR_ENOUGH);
      if (beyond.size === 0) break;
      for (const [part, off] of beyond) {
        const next = (share.get(part) ?? 1) * Math.max(0.2, 0.8 / off);
        // What can't be had within the tolerance is as it was in the end.
        share.set(part, next < LEAST_SHARE || round >= MOST_ROUNDS - 3 ? 0 : next);
      }
    }
    clipOf(draft, id).tracks = made;
  },
});

/** A track's keys within its share of the tolerance; with a share of 0, or where there is nothing to thin, as it is. */
function thinned(kit: Kit, clip: Clip, track: Track, fit: 'straight' | 'curve', limits: LocalLimits, share: number, blobs: Blobs): Track[] {
  if (share === 0 || track.property === 'shown' || (track.kind !== 'formula' && trackLength(track) === 0)) return [track];
  const samples = samplesOf(kit, clip, track, blobs, (share * limits.degrees) / 6);
  const moving = samples.filter(({ values }) => values.some((value) => Math.abs(value - values[0]) > 1e-9)).length;
  const out: Track[] = [];
  for (const one of samples) {
    const rest = restValue(one.property);
    if (one.property !== 'weight' && one.values.every((value) => Math.abs(value - rest) < 1e-9)) continue;
    // Errors of several axes add up.
    const within = (MARGIN * share * limitOf(limits, one)) / Math.max(1, moving);
    const keys = keysFor(one, within, fit);
    // What would take more keys is not thinner.
    const most = track.kind === 'samples' ? 2 * track.times.count : trackLength(track);
    // Straight keys may be more than those that were made: turns are divided.
    const may = fit === 'curve' ? track.kind !== 'formula' : track.kind === 'samples' && isStraight(track);
    if (may && keys.length > most) return [track];
    out.push({ kind: 'keys', id: newId(), part: track.part, property: one.property, axis: one.axis, keys });
  }
  return out;
}

/** Whether a platform of straight keys plays a track as it is. */
function isStraight(track: Track): boolean {
  if (track.kind === 'keys') return track.keys.every(({ easing }) => easing === 'straight' || easing === 'hold');
  return track.kind === 'samples' && track.interpolation !== 'curve';
}

function limitOf(limits: LocalLimits, { property, axis }: Samples): number {
  if (property === 'weight') return limits.weights[axis] ?? 1e-3;
  return { offset: limits.metres, turn: limits.degrees, size: limits.size, shown: 1e-3 }[property];
}

/** Times between the keys of tracks, of many evenly fewer, and others at each round. */
function looksBetween(tracks: readonly Track[], blobs: Blobs, round: number): number[] {
  const times = [...new Set(tracks.flatMap((track) => [...trackTimes(track, blobs)]))].sort((a, b) => a - b);
  const all = timesBetween(times, LEAST_GAP);
  const every = Math.ceil(all.length / MOST_LOOKS);
  return all.filter((_, i) => (i + round) % every === 0);
}

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
      const keys = curveKeys(own, smooth, within);
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
