import { easeBounceOut } from 'd3-ease';
import type { Key } from '../document';

/**
 * Tangents (value a second) for the `curve` keys of a track, so that a smooth curve never leaves the range of two
 * neighbouring keys (Fritsch & Carlson 1980, "Monotone piecewise cubic interpolation").
 *
 * A key's tangent is 0 at an extreme and at the ends; otherwise the weighted harmonic mean of the slopes beside it.
 */
export function monotoneTangents(keys: readonly Key[]): Float64Array {
  const out = new Float64Array(keys.length);
  for (let i = 1; i + 1 < keys.length; i++) {
    const h0 = keys[i].time - keys[i - 1].time;
    const h1 = keys[i + 1].time - keys[i].time;
    const d0 = (keys[i].value - keys[i - 1].value) / h0;
    const d1 = (keys[i + 1].value - keys[i].value) / h1;
    if (d0 * d1 <= 0) continue;
    const w0 = 2 * h1 + h0;
    const w1 = h1 + 2 * h0;
    out[i] = (w0 + w1) / (w0 / d0 + w1 / d1);
  }
  return out;
}

/** Cubic Hermite between two values; tangents are a second, `span` in seconds. */
export function hermite(u: number, from: number, tangentFrom: number, to: number, tangentTo: number, span: number): number {
  const u2 = u * u;
  const u3 = u2 * u;
  return (2 * u3 - 3 * u2 + 1) * from + (u3 - 2 * u2 + u) * span * tangentFrom + (3 * u2 - 2 * u3) * to + (u3 - u2) * span * tangentTo;
}

/** Penner's bounce, landing on 1 at u = 1. */
export function bounce(u: number): number {
  return easeBounceOut(u);
}
