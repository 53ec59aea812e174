import type { Key, KeyTrack } from '../document';
import { easingShape, hermite, hermiteSlope } from './easing';
import { keySlopes, sampleKeys } from './sampler';
import { SAME_TIME } from './same-time';

/**
 * Sets a key at a time without changing the motion. A curve keeps its cubic, whose tangents are written down on both sides; in one of
 * Penner's easings, which has no half, straight keys a frame apart stand for it.
 *
 * @param frame Seconds.
 */
export function splitKeys(keys: readonly Key[], time: number, frame: number): Key[] {
  if (keys.length === 0 || keys.some((key) => Math.abs(key.time - time) < SAME_TIME)) return [...keys];
  if (time < keys[0].time) return [{ time, value: keys[0].value, easing: 'hold' }, ...keys];
  const last = keys[keys.length - 1];
  if (time > last.time) return [...keys, { time, value: last.value, easing: last.easing }];
  const i = keys.findLastIndex((key) => key.time < time);
  const [from, to] = [keys[i], keys[i + 1]];
  const span = to.time - from.time;
  const u = (time - from.time) / span;
  const before = keys.slice(0, i);
  const after = keys.slice(i + 2);
  if (from.easing === 'hold') return [...before, from, { time, value: from.value, easing: 'hold' }, to, ...after];
  if (from.easing === 'straight')
    return [...before, from, { time, value: from.value + u * (to.value - from.value), easing: 'straight' }, to, ...after];
  if (from.easing === 'curve') {
    const { slopesIn, slopesOut } = keySlopes(keys);
    const value = hermite(u, from.value, slopesOut[i], to.value, slopesIn[i + 1], span);
    const slope = hermiteSlope(u, from.value, slopesOut[i], to.value, slopesIn[i + 1], span);
    // Beside a new neighbour the monotone tangents would be others: they are written down as they were.
    const kept = (key: Key, k: number): Key => ({ ...key, slopeIn: slopesIn[k], slopeOut: slopesOut[k] });
    return [...before, kept(from, i), { time, value, easing: 'curve', slopeIn: slope, slopeOut: slope }, kept(to, i + 1), ...after];
  }
  const shape = easingShape(from.easing);
  const pieces: Key[] = [];
  const add = (at: number) =>
    pieces.push({ time: at, value: from.value + shape((at - from.time) / span) * (to.value - from.value), easing: 'straight' });
  for (let at = from.time; at < to.time - SAME_TIME; at += frame) {
    if (at < time - SAME_TIME && at + frame > time + SAME_TIME) {
      add(at);
      add(time);
    } else add(at);
  }
  return [...before, ...pieces, to, ...after];
}

/** The keys of a track between two times, seconds, with one at each end; times stay as they are. */
export function keysBetween(track: Pick<KeyTrack, 'keys'>, from: number, to: number, frame: number): Key[] {
  if (track.keys.length === 0) return [];
  const keys = splitKeys(splitKeys(track.keys, from, frame), to, frame);
  return keys.filter((key) => key.time > from - SAME_TIME && key.time < to + SAME_TIME);
}

/** Value of keys that may be none. */
export function valueOf(keys: readonly Key[], time: number, rest: number): number {
  return sampleKeys({ keys: keys as Key[] }, time) ?? rest;
}
