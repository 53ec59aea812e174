/** Linear 0 to 1 as sRGB 0 to 255 (IEC 61966-2-1). */
export function toSrgb(linear: number): number {
  const value = linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
  return Math.round(255 * Math.min(1, Math.max(0, value)));
}

export function toLinear(srgb: number): number {
  const value = srgb / 255;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
}

/** Linear colour as #rrggbb. */
export const hexColour = (linear: readonly number[]) =>
  `#${[0, 1, 2].map((i) => toSrgb(linear[i]).toString(16).padStart(2, '0')).join('')}`;

/** #rrggbb as linear colour. */
export const linearOf = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => Number(toLinear(parseInt(hex.slice(i, i + 2), 16)).toFixed(6))) as [number, number, number];
