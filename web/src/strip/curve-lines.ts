import { formulaOf, formulaValue, restValue, sampleKeys, type Clip, type FormulaTrack, type KeyTrack, type Track } from '@itchkit/core';

/** A track as a curve can be drawn from it: value at any time, in its unit. */
export type Drawn = KeyTrack | FormulaTrack;

export const isDrawn = (track: Track): track is Drawn => track.kind === 'formula' || (track.kind === 'keys' && track.keys.length > 0);

export function valueAt(clip: Clip, track: Drawn): (time: number) => number {
  if (track.kind === 'keys') return (time) => sampleKeys(track, time)!;
  const formula = formulaOf(track, clip.constants);
  return (time) => formulaValue(formula, track.gain, restValue(track.property), time, clip.lengthSeconds);
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
