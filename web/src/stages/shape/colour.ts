import { linearToSrgb, srgbToLinear } from '@itchkit/core/geometry';

/** Linear colour as #rrggbb. */
export const hexColour = (linear: readonly number[]) =>
  `#${[0, 1, 2].map((i) => linearToSrgb(linear[i]).toString(16).padStart(2, '0')).join('')}`;

/** #rrggbb as linear colour. */
export const linearOf = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => Number(srgbToLinear(parseInt(hex.slice(i, i + 2), 16)).toFixed(6))) as [number, number, number];
