import {
  formulaOf,
  formulaValue,
  readArray,
  restValue,
  sampleKeys,
  turnNearest,
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
} from '@itchkit/core';

/** A track as a curve can be drawn from it: value at any time, in its unit. */
export type Drawn = KeyTrack | FormulaTrack;

export const isDrawn = (track: Track): track is Drawn => track.kind === 'formula' || (track.kind === 'keys' && track.keys.length > 0);

export function valueAt(clip: Clip, track: Drawn): (time: number) => number {
  if (track.kind === 'keys') return (time) => sampleKeys(track, time)!;
  const formula = formulaOf(track, clip.constants);
  return (time) => formulaValue(formula, track.gain, restValue(track.property), time, clip.lengthSeconds);
}

/** One number of a dense track at its samples; of rotations the turn about an axis, which goes on past 180°. */
export function denseValues(kit: Kit, { part, property, interpolation, times: timeArray, values: valueArray }: SampleTrack, axis: number, blobs: Blobs): [time: number, value: number][] {
  const times = readArray<Float32Array>(blobs, timeArray);
  const values = readArray<Float32Array>(blobs, valueArray);
  const width = valueArray.size;
  const [stride, lead] = interpolation === 'curve' ? [3 * width, width] : [width, 0];
  if (property !== 'rotation') return Array.from(times, (time, i) => [time, values[i * stride + lead + axis]]);
  let near: Vec3 = [0, 0, 0];
  return Array.from(times, (time, i) => {
    near = turnNearest(Array.from(values.subarray(i * stride + lead, i * stride + lead + 4)) as Quat, kit.parts[part].turnOrder, near);
    return [time, near[axis]];
  });
}

/** One number of a dense track, as a line without keys. */
export interface DenseLine {
  id: string;
  part: Id;
  property: KeyProperty;
  axis: number;
  points: [time: number, value: number][];
}

/** The dense tracks of some parts by axis, within a stretch of time, in so many places at most. */
export function denseLines(kit: Kit, tracks: readonly SampleTrack[], from: number, to: number, places: number, blobs: Blobs): DenseLine[] {
  return tracks.flatMap((track) => {
    const property: KeyProperty = track.property === 'rotation' ? 'turn' : track.property === 'weights' ? 'weight' : track.property;
    return Array.from({ length: property === 'weight' ? track.values.size : 3 }, (_, axis): DenseLine => {
      const points = denseValues(kit, track, axis, blobs).filter(([time]) => time >= from && time <= to);
      const step = Math.max(1, Math.ceil(points.length / places));
      return { id: `${track.id} ${axis}`, part: track.part, property, axis, points: points.filter((_, i) => i % step === 0 || i === points.length - 1) };
    });
  });
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
  return points.slice(1).map(([time, value], i) => [(time + points[i][0]) / 2, (value - points[i][1]) / Math.max(1e-9, time - points[i][0])]);
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
