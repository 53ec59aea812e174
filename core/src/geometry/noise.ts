/** Within this of a multiple of the step a number is noise (metres, degrees or factors alike). */
export const NOISE_WITHIN = 1e-4;

/**
 * The multiple of `step` that a number means where it is a little off, or null where it is exact or plainly something else.
 *
 * @param ignore Differences that storing as a 32-bit float explains; these are no noise.
 */
export function noiseTarget(value: number, step: number, ignore = 1e-7 * Math.max(1, Math.abs(value))): number | null {
  const multiple = Number((Math.round(value / step) * step).toPrecision(12)) + 0;
  const off = Math.abs(value - multiple);
  return off > ignore && off <= Math.min(NOISE_WITHIN, step / 4) ? multiple : null;
}
