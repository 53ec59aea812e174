import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, newId, partOf, type Id } from '../../document';
import { clipOf } from '../clip-operations';
import { restValue } from '../formula-track';
import { tidyTime } from '../same-time';
import { valueOf } from '../split-keys';
import { number, trackFor } from './chosen';
import { frames } from '../frames';

/** A number from 0 to 1 at every call, the same for the same seed (mulberry32). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Waves that a sway is made of where it does not loop. */
const WAVES = 8;

/**
 * Sway: a sum of sines of frequencies within a band, with seeded strengths and phases, whose greatest value is 1. In a loop only whole
 * numbers of waves fit, so that it meets itself.
 *
 * @param lowHz @param highHz The band. @returns Its value at a time in seconds.
 */
export function swayOf(lengthSeconds: number, lowHz: number, highHz: number, seed: number, loop: boolean): (time: number) => number {
  const random = seeded(seed);
  let frequencies = Array.from({ length: WAVES }, () => lowHz + random() * (highHz - lowHz));
  if (loop) {
    const [least, most] = [Math.max(1, Math.ceil(lowHz * lengthSeconds - 1e-9)), Math.floor(highHz * lengthSeconds + 1e-9)];
    const whole = Array.from({ length: Math.max(0, Math.min(most - least + 1, 64)) }, (_, i) => least + i);
    frequencies = (whole.length > 0 ? whole : [Math.max(1, Math.round(((lowHz + highHz) / 2) * lengthSeconds))]).map(
      (waves) => waves / lengthSeconds,
    );
  }
  const waves = frequencies.map((hz) => ({ hz, strength: 0.5 + random(), phase: 2 * Math.PI * random() }));
  const raw = (time: number) =>
    waves.reduce((sum, { hz, strength, phase }) => sum + strength * Math.sin(2 * Math.PI * hz * time + phase), 0);
  const peak = Math.max(...frames(0, lengthSeconds, 1 / (32 * highHz)).map((time) => Math.abs(raw(time))), 1e-9);
  return (time) => raw(time) / peak;
}

/**
 * Adds sway to one axis of some parts, in keys close enough together for its quickest wave; each part has its own.
 * @param amount In the track's unit.
 */
export const sway = defineOperation<{
  clip: Id;
  parts: Id[];
  property: 'offset' | 'turn';
  axis: number;
  amount: number;
  lowHz: number;
  highHz: number;
  seed: number;
}>({
  id: 'motion.sway',
  title: (kit, { parts, property }) =>
    `Sway the ${property} of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({
    clip: idSchema.required(),
    parts: idsSchema.required(),
    property: Joi.valid('offset', 'turn').required(),
    axis: Joi.valid(0, 1, 2).required(),
    amount: number().required(),
    lowHz: Joi.number().greater(0).max(60).required(),
    highHz: Joi.number().greater(0).max(60).min(Joi.ref('lowHz')).required(),
    seed: Joi.number().integer().min(0).max(4294967295).required(),
  }),
  change(kit, { clip: id, parts, property, axis, amount, lowHz, highHz, seed }) {
    const clip = clipOf(kit, id);
    parts.forEach((part, i) => {
      partOf(kit, part);
      const track = trackFor(clip, part, property, axis, newId);
      const before = track.keys.map((key) => ({ ...key }));
      const wave = swayOf(clip.lengthSeconds, lowHz, highHz, (seed + 7919 * i) >>> 0, clip.loop === 'loop');
      const times = [
        ...new Set([...frames(0, clip.lengthSeconds, 1 / (8 * highHz)).map(tidyTime), ...before.map(({ time }) => time)]),
      ].sort((a, b) => a - b);
      track.keys = times.map((time) => ({
        time,
        value: valueOf(before, time, restValue(property)) + amount * wave(time),
        easing: 'curve',
      }));
    });
  },
});
