import type { Vec3 } from '../document';

/** Linear 0 to 1 as sRGB 0 to 255, rounded (IEC 61966-2-1). */
export function linearToSrgb(linear: number): number {
  const value = linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
  return Math.round(255 * Math.min(1, Math.max(0, value)));
}

/** sRGB 0 to 255 as linear 0 to 1 (IEC 61966-2-1). */
export function srgbToLinear(srgb: number): number {
  const value = srgb / 255;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
}

/** Linear RGB as OKLab: lightness 0 to 1, green to red, blue to yellow (Ottosson 2020). Means of colours are taken there. */
export function linearToOklab([r, g, b]: ArrayLike<number> & Iterable<number>): Vec3 {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** OKLab as linear RGB, which may lie outside of 0 to 1 (Ottosson 2020). */
export function oklabToLinear([lightness, a, b]: ArrayLike<number> & Iterable<number>): Vec3 {
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
}
