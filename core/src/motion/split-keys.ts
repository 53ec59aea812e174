import type { Easing, Key, KeyTrack } from '../document';
import { easingCorners, easingShape, hermite, hermiteSlope } from './easing';
import { keySlopes, sampleKeys } from './sampler';
import { SAME_TIME } from './same-time';

/**
 * Sets a key at a time, seconds, without changing the motion anywhere. A curve keeps its cubic; one of Penner's easings, which has no half,
 * becomes curves: exactly where it is of the third degree (quad, cubic, back, bounce), to 10⁻⁵ of its way for a sine, and to 10⁻⁴ for an
 * elastic one. Beside a new neighbour the tangents that a key does not say would be others: they are written down as they were first.
 *
 * @param more Times at which keys will be set next: in an eased stretch they are set at once, while it is what it was.
 */
export function splitKeys(keys: readonly Key[], time: number, more: readonly number[] = []): Key[] {
  if (keys.length === 0 || keys.some((key) => Math.abs(key.time - time) < SAME_TIME)) return [...keys];
  if (time < keys[0].time) return [{ time, value: keys[0].value, easing: 'hold' }, ...keys];
  const last = keys[keys.length - 1];
  if (time > last.time) {
    // What stands still after the last key goes on to do so, whatever its tangent.
    const still = last.slopeOut === undefined ? last : { ...last, slopeOut: 0 };
    return [...keys.slice(0, -1), still, { time, value: last.value, easing: last.easing }];
  }
  const i = keys.findLastIndex((key) => key.time < time);
  const { slopesIn, slopesOut } = keySlopes(keys);
  const said = (key: Key, k: number): Key =>
    keys[k - 1]?.easing === 'curve' || key.easing === 'curve' ? { ...key, slopeIn: slopesIn[k], slopeOut: slopesOut[k] } : key;
  const [from, to] = [said(keys[i], i), said(keys[i + 1], i + 1)];
  const before = keys.slice(0, i);
  const after = keys.slice(i + 2);
  const span = to.time - from.time;
  const u = (time - from.time) / span;
  if (from.easing === 'hold') return [...before, from, { time, value: from.value, easing: 'hold' }, to, ...after];
  if (from.easing === 'straight')
    return [...before, from, { time, value: from.value + u * (to.value - from.value), easing: 'straight' }, to, ...after];
  if (from.easing === 'curve') {
    const value = hermite(u, from.value, slopesOut[i], to.value, slopesIn[i + 1], span);
    const slope = hermiteSlope(u, from.value, slopesOut[i], to.value, slopesIn[i + 1], span);
    return [...before, from, { time, value, easing: 'curve', slopeIn: slope, slopeOut: slope }, to, ...after];
  }
  return [...before, ...easedAsCurves(from, to, [time, ...more.filter((one) => one > from.time && one < to.time)]), ...after];
}

/** Shares of an easing's time between which it is a cubic, or nearly one. */
function piecesOf(easing: Easing): number[] {
  const even = (count: number) => Array.from({ length: count + 1 }, (_, n) => n / count);
  if (easing.startsWith('bounce')) return [0, ...easingCorners(easing), 1];
  if (easing.startsWith('elastic')) return even(64);
  if (easing.startsWith('sine')) return even(8);
  return even(easing.endsWith('-both') ? 2 : 1);
}

/** The keys of an eased stretch as curves, its ends and one at a time with them: each the cubic through four points of its piece. */
function easedAsCurves(from: Key, to: Key, times: readonly number[]): Key[] {
  const shape = easingShape(from.easing);
  const span = to.time - from.time;
  const way = to.value - from.value;
  const own = [...new Set(times)].map((time) => (time - from.time) / span);
  const shares = [
    ...piecesOf(from.easing).filter((u) => own.every((one) => Math.abs(u - one) * span > SAME_TIME) || u === 0 || u === 1),
    ...own,
  ].sort((a, b) => a - b);
  const keys: Key[] = shares.map((u) => ({ time: from.time + u * span, value: from.value + way * shape(u), easing: 'curve' }));
  for (let k = 0; k + 1 < shares.length; k++) {
    const [a, b] = [shares[k], shares[k + 1]];
    // A corner is of the piece on whose side it is seen from.
    const [p, q, r, s] = [1e-12, 1 / 3, 2 / 3, 1 - 1e-12].map((u) => way * shape(a + u * (b - a)));
    const seconds = (b - a) * span;
    keys[k].slopeOut = (-11 * p + 18 * q - 9 * r + 2 * s) / (2 * seconds);
    keys[k + 1].slopeIn = (11 * s - 18 * r + 9 * q - 2 * p) / (2 * seconds);
  }
  const end = keys[keys.length - 1];
  keys[0] = { ...from, ...keys[0], value: from.value, slopeIn: from.slopeIn };
  if (keys[0].slopeIn === undefined) delete keys[0].slopeIn;
  keys[keys.length - 1] = { ...to, slopeIn: end.slopeIn };
  return keys;
}

/** The keys of a track between two times, seconds, with one at each end; times stay as they are. */
export function keysBetween(track: Pick<KeyTrack, 'keys'>, from: number, to: number): Key[] {
  if (track.keys.length === 0) return [];
  const keys = splitKeys(splitKeys(track.keys, from, [to]), to);
  return keys.filter((key) => key.time > from - SAME_TIME && key.time < to + SAME_TIME);
}

/** Value of keys that may be none. */
export function valueOf(keys: readonly Key[], time: number, rest: number): number {
  return sampleKeys({ keys: keys as Key[] }, time) ?? rest;
}
