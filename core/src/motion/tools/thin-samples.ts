import {
  partOf,
  readArray,
  type Blobs,
  type Clip,
  type Key,
  type KeyProperty,
  type KeyTrack,
  type Kit,
  type Quat,
  type SampleTrack,
  type Track,
  type Vec3,
} from '../../document';
import { angleBetweenQuats, quatFromTurn, slerpQuats, turnNearest } from '../../geometry';
import { rowOf } from '../cut-clip';
import { easingCorners } from '../easing';
import { formulaOf, formulaValue, restValue } from '../formula-track';
import { frames } from '../frames';
import { valueOf } from '../split-keys';
import { curveKeys, straightKeys } from './fit-keys';

/** Dense samples of one number. */
export interface Samples {
  property: KeyProperty;
  axis: number;
  times: number[];
  values: number[];
  /** Which samples are held until the next one, where the number jumps. */
  held: Set<number>;
}

/** Samples a second of what has no samples of its own. */
const DENSE = 480;
/** Samples between two keys at least. */
const PIECES = 64;

/**
 * A track as numbers over time, close enough together for any of its easings.
 *
 * @param degrees How far a turn about the own axes may be off between two samples of a dense rotation, where the way between is another.
 */
export function samplesOf(kit: Kit, clip: Clip, track: Track, blobs: Blobs, degrees = 0.05): Samples[] {
  if (track.kind === 'samples') return denseSamples(kit, track, blobs, degrees);
  if (track.kind === 'keys') return [keySamples(track)];
  const times = frames(0, clip.lengthSeconds, 1 / DENSE);
  const formula = formulaOf(track, clip.constants);
  const values = times.map((time) => formulaValue(formula, track.gain, restValue(track.property), time, clip.lengthSeconds));
  return [{ property: track.property, axis: track.axis, times, values, held: new Set() }];
}

function keySamples({ property, axis, keys }: KeyTrack): Samples {
  const times: number[] = [];
  const held = new Set<number>();
  keys.forEach((key, i) => {
    const next = keys[i + 1];
    const start = times.length;
    times.push(key.time);
    if (!next) return;
    if (key.easing === 'hold') {
      held.add(start);
      return;
    }
    if (key.easing === 'straight') return;
    // A short way may have as many bends as a long one.
    const span = next.time - key.time;
    const pieces = Math.max(PIECES, Math.ceil(span * DENSE));
    const between = [
      ...easingCorners(key.easing).map((u) => key.time + u * span),
      ...Array.from({ length: pieces - 1 }, (_, n) => key.time + (span * (n + 1)) / pieces),
    ].sort((a, b) => a - b);
    for (const time of between) if (time - times[times.length - 1] > 5e-5 && next.time - time > 5e-5) times.push(time);
  });
  return { property, axis, times, values: times.map((time) => valueOf(keys, time, 0)), held };
}

function denseSamples(kit: Kit, track: SampleTrack, blobs: Blobs, degrees: number): Samples[] {
  const own = [...readArray<Float32Array>(blobs, track.times)];
  const hold = track.interpolation === 'hold';
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
  const held = new Set(hold ? times.map((_, i) => i).slice(0, -1) : []);
  if (track.property === 'rotation') {
    const turns = turnsOf(times, rows as Quat[], partOf(kit, track.part).turnOrder, hold ? null : degrees);
    return [0, 1, 2].map((axis) => ({
      property: 'turn' as const,
      axis,
      times: turns.map(({ time }) => time),
      values: turns.map(({ turn }) => turn[axis]),
      held,
    }));
  }
  const property = track.property === 'weights' ? 'weight' : track.property;
  return rows[0].map((_, axis) => ({ property, axis, times, values: rows.map((one) => one[axis]), held }));
}

/** Halvings between two samples at most. */
const DEEPEST = 7;

/**
 * Turns about the own axes for rotations. Between two of them numbers go straight where the rotation goes the shortest way: another
 * way the longer it is: there are more samples wherever the two are further apart than the tolerance (null: nothing lies between).
 */
function turnsOf(
  times: readonly number[],
  quats: readonly Quat[],
  order: Parameters<typeof quatFromTurn>[1],
  degrees: number | null,
): { time: number; turn: Vec3 }[] {
  const out = [{ time: times[0], turn: turnNearest(quats[0], order, [0, 0, 0]) }];
  const go = (a: Quat, b: Quat, to: number, depth: number): void => {
    const from = out[out.length - 1];
    const turn = turnNearest(b, order, from.turn);
    if (degrees !== null && depth < DEEPEST && !isNear(a, b, turn, from.turn, order, degrees)) {
      const middle = slerpQuats(a, b, 0.5);
      go(a, middle, (from.time + to) / 2, depth + 1);
      go(middle, b, to, depth + 1);
    } else out.push({ time: to, turn });
  };
  for (let i = 1; i < times.length; i++) go(quats[i - 1], quats[i], times[i], 0);
  return out;
}

function isNear(a: Quat, b: Quat, turn: Vec3, before: Vec3, order: Parameters<typeof quatFromTurn>[1], degrees: number): boolean {
  const most = Math.max(...[0, 1, 2].map((axis) => Math.abs(turn[axis] - before[axis])));
  // Two ways of so many degrees that begin and end alike are apart by less than their square, in radians.
  if (most * most < 57 * degrees) return true;
  return [0.25, 0.5, 0.75].every((u) => {
    const straight = turn.map((value, axis) => before[axis] + u * (value - before[axis])) as Vec3;
    return angleBetweenQuats(slerpQuats(a, b, u), quatFromTurn(straight, order)) <= degrees;
  });
}

/** Degrees between two keys at most: the short way round is the right one then. */
const MOST_TURN = 85;

function dividedTurns(keys: readonly Key[]): Key[] {
  return keys.flatMap((key, i): Key[] => {
    const next = keys[i + 1];
    const pieces = next && key.easing !== 'hold' ? Math.max(1, Math.ceil(Math.abs(next.value - key.value) / MOST_TURN)) : 1;
    return Array.from({ length: pieces }, (_, n) =>
      n === 0
        ? key
        : { ...key, time: key.time + ((next.time - key.time) * n) / pieces, value: key.value + ((next.value - key.value) * n) / pieces },
    );
  });
}

/** Keys for samples, within an allowance; one where nothing moves. Steps stay steps, each at its own time. */
export function keysFor({ property, times, values, held }: Samples, within: number, fit: 'straight' | 'curve'): Key[] {
  if (values.every((value) => Math.abs(value - values[0]) < 1e-9)) return [{ time: times[0], value: values[0], easing: 'hold' }];
  const keys: Key[] = [];
  const last = times.length - 1;
  for (let i = 0; i < last;) {
    let to = i + 1;
    if (held.has(i)) {
      const before = keys[keys.length - 1];
      const same = before?.easing === 'hold' && Math.abs(before.value - values[i]) < 1e-9 && before.slopeIn === undefined;
      if (before && before.time >= times[i]) before.easing = 'hold';
      else if (!same) keys.push({ time: times[i], value: values[i], easing: 'hold' });
    } else {
      while (to < last && !held.has(to)) to++;
      const [own, rows] = [times.slice(i, to + 1), values.slice(i, to + 1)];
      keys.push(...(fit === 'curve' ? curveKeys(own, rows, within) : straightKeys(own, rows, within)));
    }
    i = to;
  }
  if (keys[keys.length - 1].time < times[last]) keys.push({ time: times[last], value: values[last], easing: 'hold' });
  return property === 'turn' && fit === 'straight' ? dividedTurns(keys) : keys;
}
