import type { Easing, Key, KeyTrack, TurnOrder, Quat, Vec3 } from '../../document';
import { conjugateQuat, multiplyQuats, quatFromTurn, rotateVector, turnNearest } from '../../geometry';
import { easingShape } from '../easing';
import { fineFrames } from '../frames';
import { SAME_TIME } from '../same-time';
import { sampleKeys } from '../sampler';
import { curveKeys } from './fit-keys';

/** Samples a second at least, and between two keys. */
const SAMPLES = 240;
const FEWEST = 8;
/** A value that jumps at a key does so in this time at most, seconds. */
const JUMP = 1e-4;

/** Three values at a time, in seconds: degrees or metres. */
export type Triple = (time: number) => Vec3;

/**
 * A turn seen in the mirror of a plane through the origin across an axis: its axis is a pseudovector, so what lies in the plane turns over.
 */
export function quatInMirror([x, y, z, w]: Quat, axis: number): Quat {
  const sign = (k: number) => (k === axis ? 1 : -1);
  return [sign(0) * x, sign(1) * y, sign(2) * z, w];
}

/**
 * Turns after rest as the twin has them: with C = q⁻¹·mirror(p), of a part's rest turn p and its twin's q in the world, a turn s becomes
 * C·mirror(s)·C⁻¹, which is s in the mirror whatever way the axes of either lie.
 *
 * @param turns Degrees about the part's own axes.
 */
export function turnsInMirror(
  turns: Triple,
  part: { rest: Quat; order: TurnOrder },
  twin: { rest: Quat; order: TurnOrder },
  axis: number,
): Triple {
  const into = multiplyQuats(conjugateQuat(twin.rest), quatInMirror(part.rest, axis));
  let near: Vec3 | null = null;
  return (time) => {
    const turn = turns(time);
    near ??= rotateVector(into, turn.map((value, k) => (k === axis ? value : -value)) as Vec3);
    const spin = multiplyQuats(into, multiplyQuats(quatInMirror(quatFromTurn(turn, part.order), axis), conjugateQuat(into)));
    return (near = turnNearest(spin, twin.order, near));
  };
}

/** Offsets in the axes of what a part hangs on, as they are in those of what its twin hangs on. @param above Its rest turn in the world. */
export function offsetsInMirror(offsets: Triple, above: Quat, twinAbove: Quat, axis: number): Triple {
  return (time) => {
    const way = rotateVector(above, offsets(time));
    way[axis] = -way[axis];
    return rotateVector(conjugateQuat(twinAbove), way);
  };
}

/** What three tracks give together, one an axis; where there is none, rest. */
export function tripleOf(tracks: readonly (Pick<KeyTrack, 'keys'> | undefined)[]): Triple {
  return (time) => [0, 1, 2].map((k) => (tracks[k] ? (sampleKeys(tracks[k], time) ?? 0) : 0)) as Vec3;
}

/**
 * Keys of three axes for what moves as a function of time that comes from keys: one at every time of those, with their easing wherever it
 * gives the same motion, and otherwise with curves in between that do.
 *
 * @param from The keys that it comes from. @param rate Frames a second: keys in between stand on frames. @param within What a value may be
 * off by.
 */
export function keysAfter(values: Triple, from: readonly Pick<KeyTrack, 'keys'>[], rate: number, within: number): [Key[], Key[], Key[]] {
  const all = from.flatMap(({ keys }) => keys.map(({ time }) => time)).sort((a, b) => a - b);
  // Of times that are the same the last: every key there counts by then.
  const times = all.filter((time, i) => i + 1 === all.length || all[i + 1] - time > SAME_TIME);
  const first = values(times[0]);
  const out = first.map((value): Key[] => [{ time: times[0], value, easing: 'hold' }]) as [Key[], Key[], Key[]];
  for (let i = 0; i + 1 < times.length; i++) {
    const [start, end] = [times[i], times[i + 1]];
    const { times: even, every } = fineFrames(start, end, rate, { perSecond: SAMPLES, fewest: FEWEST });
    const grid = [...even.slice(0, -1), end - Math.min(JUMP, (even[1] - start) / 2)];
    const rows = grid.map(values);
    const after = values(end);
    const easing = sameEasing(easingsOver(from, start, end), grid, rows, { end, after }, within);
    out.forEach((keys, axis) => {
      const value = after[axis];
      if (easing !== null) {
        keys[keys.length - 1].easing = easing;
        keys.push({ time: end, value, easing: 'hold' });
        return;
      }
      const jumps = Math.abs(rows[rows.length - 1][axis] - value) > within;
      const column = rows.map((row) => row[axis]);
      const [head, ...rest] = jumps
        ? curveKeys(grid, column, within, every)
        : curveKeys(even, [...column.slice(0, -1), value], within, every);
      Object.assign(keys[keys.length - 1], { easing: 'curve', slopeOut: head.slopeOut ?? 0 });
      keys.push(...rest);
      if (jumps) {
        keys[keys.length - 1].easing = 'straight';
        keys.push({ time: end, value, easing: 'hold' });
      }
    });
  }
  const easing = from.flatMap(({ keys }) => keys).findLast(({ time }) => Math.abs(time - times[times.length - 1]) < SAME_TIME)!.easing;
  for (const keys of out) keys[keys.length - 1].easing = easing;
  return out;
}

/** How the keys go from one time to a later one, each way once; curves are left out, since their slopes are of other axes. */
function easingsOver(from: readonly Pick<KeyTrack, 'keys'>[], start: number, end: number): Easing[] {
  const found = from.flatMap(({ keys }) => {
    const i = keys.findLastIndex(({ time }) => time < start + SAME_TIME);
    return i >= 0 && i + 1 < keys.length && keys[i + 1].time > end - SAME_TIME ? [keys[i].easing] : [];
  });
  return [...new Set(found.length > 0 ? found : (['hold'] as const))].filter((easing) => easing !== 'curve');
}

/** The first of some easings that takes every axis from its first row to the end as the rows go. */
function sameEasing(
  easings: readonly Easing[],
  grid: readonly number[],
  rows: readonly Vec3[],
  { end, after }: { end: number; after: Vec3 },
  within: number,
): Easing | null {
  const [start, before] = [grid[0], rows[0]];
  const found = easings.find((easing) => {
    const shape = easingShape(easing);
    return grid.every((time, i) => {
      const share = shape((time - start) / (end - start));
      return [0, 1, 2].every((k) => Math.abs(before[k] + share * (after[k] - before[k]) - rows[i][k]) <= within);
    });
  });
  return found ?? null;
}
