import type { DutyLine, OwnDuty } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { leverStep } from '../../card/Lever';

/** Times are kept to this many seconds. */
const TICK = 0.05;

const onTick = (time: number) => Number((Math.round(time / TICK) * TICK).toFixed(4));

/** A value on the steps of its variable, within its range. */
export function snapped(value: number, variable: Variable | undefined): number {
  if (!variable) return value;
  const step = leverStep(variable);
  return Math.min(variable.max, Math.max(variable.min, Number((Math.round(value / step) * step).toPrecision(12))));
}

const withLine = (duty: OwnDuty, at: number, points: DutyLine['points']): OwnDuty => ({
  ...duty,
  lines: duty.lines.map((line, i) => (i === at ? { ...line, points } : line)),
});

/** A point of a line moved: in time between its neighbours, within the duty; in value within the range of its variable. */
export function movePoint(
  duty: OwnDuty,
  line: number,
  point: number,
  time: number,
  value: number,
  variable: Variable | undefined,
): OwnDuty {
  const { points } = duty.lines[line];
  const low = point === 0 ? 0 : points[point - 1].time + TICK;
  const high = point === points.length - 1 ? duty.seconds : points[point + 1].time - TICK;
  const at = { time: Math.max(low, Math.min(high, onTick(time))), value: snapped(value, variable) };
  return withLine(
    duty,
    line,
    points.map((one, i) => (i === point ? at : one)),
  );
}

/** A line with one more point; the same duty where there is one at that moment. Tells which point it is. */
export function addPoint(duty: OwnDuty, line: number, time: number, value: number, variable: Variable | undefined): [OwnDuty, number] {
  const { points } = duty.lines[line];
  const at = { time: Math.min(duty.seconds, Math.max(0, onTick(time))), value: snapped(value, variable) };
  const near = points.findIndex((one) => Math.abs(one.time - at.time) < TICK - 1e-9);
  if (near >= 0) return [duty, near];
  const more = [...points, at].sort((a, b) => a.time - b.time);
  return [withLine(duty, line, more), more.indexOf(at)];
}

/** Without a point; a line whose last point it is goes; null where nothing is left. */
export function dropPoint(duty: OwnDuty, line: number, point: number): OwnDuty | null {
  const { points } = duty.lines[line];
  if (points.length > 1)
    return withLine(
      duty,
      line,
      points.filter((_, i) => i !== point),
    );
  return dropLine(duty, line);
}

/** Without a line; null where nothing is left. */
export function dropLine(duty: OwnDuty, line: number): OwnDuty | null {
  return duty.lines.length > 1 ? { ...duty, lines: duty.lines.filter((_, i) => i !== line) } : null;
}

/** Of another length: what lies beyond its end goes, but the last point of a line, which stands at the end then. */
export function setLength(duty: OwnDuty, seconds: number): OwnDuty {
  return {
    ...duty,
    seconds,
    lines: duty.lines.map((line) => {
      const kept = line.points.filter(({ time }) => time <= seconds);
      return { ...line, points: kept.length > 0 ? kept : [{ ...line.points[0], time: seconds }] };
    }),
  };
}
