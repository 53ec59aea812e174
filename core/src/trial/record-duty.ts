import type { DutyLine } from '../document';

/** A lever that was set while a duty was written. */
export interface LeverSet {
  /** By `leverKey`. */
  key: string;
  variable: string;
  index: number | null;
  /** Seconds since it was begun. */
  time: number;
  value: number;
}

/** A lever that was not touched for so long stood still until it was, seconds. */
const STILL = 0.25;

/**
 * The lines of what was done with levers: one for each that was touched, from where it stood. Between two settings that follow soon a lever
 * goes straight, before a later one it stands still. Points that lie on a straight line between others, to a share of the line's span, are
 * left out (Douglas & Peucker 1973, in values alone).
 *
 * @param start Where levers stood as it was begun, by key
 */
export function linesOfRecord(sets: readonly LeverSet[], start: Readonly<Record<string, number>>): DutyLine[] {
  const lines = new Map<string, DutyLine>();
  for (const { key, variable, index, time, value } of sets) {
    const line = lines.get(key) ?? { variable, index, points: [{ time: 0, value: start[key] ?? value }] };
    lines.set(key, line);
    const last = line.points.at(-1)!;
    if (time <= last.time) {
      last.value = value;
      continue;
    }
    if (time - last.time > STILL) line.points.push({ time: round(time - Math.min(STILL / 5, (time - last.time) / 2)), value: last.value });
    line.points.push({ time: round(time), value });
  }
  return [...lines.values()].map((line) => ({ ...line, points: thinned(line.points) }));
}

const round = (time: number) => Number(time.toFixed(4));

/** Of the span of a line: how far a point may be from the straight line between those that stay. */
const OFF = 0.002;

function thinned(points: DutyLine['points']): DutyLine['points'] {
  const values = points.map(({ value }) => value);
  const off = OFF * (Math.max(...values) - Math.min(...values));
  const keep = (from: number, to: number): DutyLine['points'] => {
    const [a, b] = [points[from], points[to]];
    let [worst, at] = [off, -1];
    for (let i = from + 1; i < to; i++) {
      const away = Math.abs(a.value + ((b.value - a.value) * (points[i].time - a.time)) / (b.time - a.time) - points[i].value);
      if (away > worst) [worst, at] = [away, i];
    }
    return at < 0 ? [a] : [...keep(from, at), ...keep(at, to)];
  };
  return points.length < 2 ? points : [...keep(0, points.length - 1), points.at(-1)!];
}
