/** From one time to another, a frame apart, with both ends. @param frame Seconds. */
export function frames(from: number, to: number, frame: number): number[] {
  const n = Math.max(1, Math.round((to - from) / frame));
  return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
}
