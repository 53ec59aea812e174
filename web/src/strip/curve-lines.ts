import {
  readArray,
  type Blobs,
  type Clip,
  type FormulaTrack,
  type Id,
  type KeyProperty,
  type KeyTrack,
  type Kit,
  type Quat,
  type SampleTrack,
  type Track,
  type Vec3,
} from '@itchkit/core/document';
import { normalizeQuat, turnNearest } from '@itchkit/core/geometry';
import { formulaOf, formulaValue, hermite, restValue, sampleKeys } from '@itchkit/core/motion';

/** A track as a curve can be drawn from it: value at any time, in its unit. */
export type Drawn = KeyTrack | FormulaTrack;

export const isDrawn = (track: Track): track is Drawn => track.kind === 'formula' || (track.kind === 'keys' && track.keys.length > 0);

export function valueAt(clip: Clip, track: Drawn): (time: number) => number {
  if (track.kind === 'keys') return (time) => sampleKeys(track, time)!;
  const formula = formulaOf(track, clip.constants);
  return (time) => formulaValue(formula, track.gain, restValue(track.property), time, clip.lengthSeconds);
}

/** Pieces that a curve is drawn in from one sample to the next. */
const BETWEEN = 12;

/**
 * The numbers of a dense track at its samples, and along its curves between them; of rotations the turns about the axes, which go on past
 * 180°.
 */
export function denseRows(
  kit: Kit,
  { part, property, interpolation, times: timeArray, values: valueArray }: SampleTrack,
  blobs: Blobs,
): { times: Float32Array; rows: ArrayLike<number>[] } {
  const times = readArray<Float32Array>(blobs, timeArray);
  const values = readArray<Float32Array>(blobs, valueArray);
  const width = valueArray.size;
  let near: Vec3 = [0, 0, 0];
  const shown = (row: ArrayLike<number>) =>
    property === 'rotation' ? (near = turnNearest(normalizeQuat(Array.from(row) as Quat), kit.parts[part].turnOrder, near)) : row;
  if (interpolation !== 'curve') return { times, rows: Array.from(times, (_, i) => shown(values.subarray(i * width, (i + 1) * width))) };
  const at = Array.from(times).flatMap((time, i) => {
    const span = i + 1 < times.length ? times[i + 1] - time : 0;
    return Array.from({ length: span > 0 ? BETWEEN : 1 }, (_, k) => ({ i, u: k / BETWEEN, span }));
  });
  const rows = at.map(({ i, u, span }) => {
    const here = (3 * i + 1) * width;
    const there = here + 3 * width;
    const value = (c: number) =>
      u === 0
        ? values[here + c]
        : hermite(u, values[here + c], values[here + width + c], values[there + c], values[there - width + c], span);
    return shown(Array.from({ length: width }, (_, c) => value(c)));
  });
  return { times: Float32Array.from(at, ({ i, u, span }) => times[i] + u * span), rows };
}

/** What a dense track moves, as keys would say it. */
export const keyProperty = ({ property }: SampleTrack): KeyProperty =>
  (({ rotation: 'turn', weights: 'weight', offset: 'offset', size: 'size' }) as const)[property];

/** One number of a dense track, as a line without keys. */
export interface DenseLine {
  id: string;
  part: Id;
  property: KeyProperty;
  axis: number;
  points: [time: number, value: number][];
}

/** Dense tracks, a line a number. */
export function denseLines(kit: Kit, tracks: readonly SampleTrack[], blobs: Blobs): DenseLine[] {
  return tracks.flatMap((track) => {
    const { times, rows } = denseRows(kit, track, blobs);
    return Array.from(rows[0] ?? [], (_, axis): DenseLine => ({
      id: `${track.id} ${axis}`,
      part: track.part,
      property: keyProperty(track),
      axis,
      points: rows.map((row, i) => [times[i], row[axis]]),
    }));
  });
}

/** The points within a stretch of time, in so many places at most. */
export function within(points: readonly [number, number][], from: number, to: number, places: number): [time: number, value: number][] {
  const inside = points.filter(([time]) => time >= from && time <= to);
  const step = Math.max(1, Math.ceil(inside.length / places));
  return inside.filter((_, i) => i % step === 0 || i === inside.length - 1);
}

/** Values of a track over a time, a place a pixel or two. */
export function sampled(clip: Clip, track: Drawn, from: number, to: number, places: number): [time: number, value: number][] {
  const at = valueAt(clip, track);
  return Array.from({ length: places + 1 }, (_, i) => {
    const time = from + ((to - from) * i) / places;
    return [time, at(time)];
  });
}

/** How fast values change, a second, by their differences; at the jumps of a hold nothing is said. */
export function speeds(points: readonly [number, number][]): [number, number][] {
  return points
    .slice(1)
    .map(([time, value], i) => [(time + points[i][0]) / 2, (value - points[i][1]) / Math.max(1e-9, time - points[i][0])]);
}

/** The least and the greatest of some values with a little room to both sides. */
export function extentOf(values: readonly number[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  if (low > high) return [-1, 1];
  const room = high - low < 1e-9 ? Math.max(0.5, Math.abs(high) * 0.1) : 0.12 * (high - low);
  return [low - room, high + room];
}
