/** From one time to another, a frame apart, with both ends. @param frame Seconds. */
export function frames(from: number, to: number, frame: number): number[] {
  const n = Math.max(1, Math.round((to - from) / frame));
  // The last is the end itself, not what adding up makes of it: what is held until then has gone on there.
  return Array.from({ length: n + 1 }, (_, i) => (i === n ? to : from + ((to - from) * i) / n));
}

/** Times at which motion is looked at, and of how many of them one is on a frame. */
export interface Samples {
  times: number[];
  every: number;
}

/**
 * From one time to another, with both ends; where they are on frames, so is every so manieth.
 *
 * @param rate Frames a second. @param perSecond At least so many. @param fewest At least so many steps in all.
 */
export function fineFrames(from: number, to: number, rate: number, { perSecond = rate, fewest = 1 } = {}): Samples {
  const count = Math.max(1, Math.round((to - from) * rate));
  const every = Math.max(1, Math.ceil(perSecond / rate - 1e-9), Math.ceil(fewest / count));
  return { times: frames(from, to, (to - from) / (count * every)), every };
}
