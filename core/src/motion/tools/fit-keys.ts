import type { Key } from '../../document';
import { hermite } from '../easing';

/**
 * Straight keys through samples, none of which is further from them than the tolerance: from each key as far as a line fits (the cone of
 * slopes that pass every sample is narrowed until it is empty; Tomek 1974, "piecewise linear approximation" by funnels). Linear in the
 * samples but for where it takes a step back.
 *
 * @param times Seconds, ascending. @param values As many. @param from @param to First and last sample of the stretch.
 */
export function straightKeys(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  tolerance: number,
  from = 0,
  to = times.length - 1,
): Key[] {
  const keys: Key[] = [{ time: times[from], value: values[from], easing: 'straight' }];
  let anchor = from;
  while (anchor < to) {
    let [low, high] = [-Infinity, Infinity];
    let end = anchor + 1;
    for (let i = anchor + 1; i <= to; i++) {
      const run = times[i] - times[anchor];
      const rise = values[i] - values[anchor];
      const slope = rise / run;
      if (slope >= low && slope <= high) end = i;
      low = Math.max(low, (rise - tolerance) / run);
      high = Math.min(high, (rise + tolerance) / run);
      if (low > high) break;
    }
    keys.push({ time: times[end], value: values[end], easing: 'straight' });
    anchor = end;
  }
  return keys;
}

/**
 * Curves through samples: one cubic Hermite with the best tangents over the whole stretch, halved where it is furthest off until none is
 * further off than the tolerance (after Schneider 1990, "An algorithm for automatically fitting digitized curves", for functions of time).
 *
 * @param every Keys stand on every so manieth sample wherever there is one.
 */
export function curveKeys(times: ArrayLike<number>, values: ArrayLike<number>, tolerance: number, every = 1): Key[] {
  const keys: Key[] = [{ time: times[0], value: values[0], easing: 'curve' }];
  const fit = (from: number, to: number): void => {
    const span = times[to] - times[from];
    const [out, into] = bestTangents(times, values, from, to);
    let [worst, off] = [from, 0];
    for (let i = from + 1; i < to; i++) {
      const error = Math.abs(values[i] - hermite((times[i] - times[from]) / span, values[from], out, values[to], into, span));
      if (error > off) [worst, off] = [i, error];
    }
    if (off <= tolerance) {
      keys[keys.length - 1].slopeOut = out;
      keys.push({ time: times[to], value: values[to], easing: 'curve', slopeIn: into, slopeOut: 0 });
      return;
    }
    const near = every * Math.min(Math.ceil(to / every) - 1, Math.max(Math.floor(from / every) + 1, Math.round(worst / every)));
    const at = near > from && near < to ? near : worst;
    fit(from, at);
    fit(at, to);
  };
  if (times.length > 1) fit(0, times.length - 1);
  return keys;
}

/** Least squares for the two tangents of a cubic Hermite between two samples, value a second. */
function bestTangents(times: ArrayLike<number>, values: ArrayLike<number>, from: number, to: number): [number, number] {
  const span = times[to] - times[from];
  const chord = (values[to] - values[from]) / span;
  if (to - from < 3) return [chord, chord];
  let [aa, ab, bb, ay, by] = [0, 0, 0, 0, 0];
  for (let i = from + 1; i < to; i++) {
    const u = (times[i] - times[from]) / span;
    const u2 = u * u;
    const u3 = u2 * u;
    const a = span * (u3 - 2 * u2 + u);
    const b = span * (u3 - u2);
    const y = values[i] - (2 * u3 - 3 * u2 + 1) * values[from] - (3 * u2 - 2 * u3) * values[to];
    aa += a * a;
    ab += a * b;
    bb += b * b;
    ay += a * y;
    by += b * y;
  }
  const det = aa * bb - ab * ab;
  if (Math.abs(det) < 1e-18) return [chord, chord];
  return [(ay * bb - by * ab) / det, (by * aa - ay * ab) / det];
}
