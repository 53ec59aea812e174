import fc from 'fast-check';
import { checkKit, emptyKit, type OwnDuty } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { addPoint, dropLine, dropPoint, movePoint, setLength } from './duty-edits';

const variable = { name: 'gate_lift', min: 0, max: 2.4, neutral: 0, unit: 'm', indices: 1 } as Variable;
const duty: OwnDuty = {
  id: 'run',
  name: 'Run',
  about: '',
  seconds: 10,
  lines: [
    {
      variable: 'gate_lift',
      index: 0,
      points: [
        { time: 0, value: 0 },
        { time: 4, value: 2 },
        { time: 8, value: 1 },
      ],
    },
    { variable: 'tide_height', index: null, points: [{ time: 9, value: 1 }] },
  ],
};
const sound = (one: OwnDuty) => checkKit({ ...emptyKit('Kit'), duties: [one] });

test('a point stays between its neighbours, in the duty and in the range of its variable', () => {
  const of = (time: number, value: number) => movePoint(duty, 0, 1, time, value, variable).lines[0].points[1];
  expect(of(5, 1.5)).toEqual({ time: 5, value: 1.5 });
  expect(of(-3, 9)).toEqual({ time: 0.05, value: 2.4 });
  expect(of(30, -1)).toEqual({ time: 7.95, value: 0 });
  expect(movePoint(duty, 0, 2, 30, 1, variable).lines[0].points[2].time).toBe(10);
});

test('a point is added in its place, and not on another one', () => {
  const [more, at] = addPoint(duty, 0, 6.01, 1.231, variable);
  expect([at, more.lines[0].points[at]]).toEqual([2, { time: 6, value: 1.24 }]);
  expect(addPoint(duty, 0, 4.02, 1, variable)).toEqual([duty, 1]);
});

test('the last point of a line takes the line along, the last line the duty', () => {
  expect(dropPoint(duty, 1, 0)!.lines.map(({ variable: name }) => name)).toEqual(['gate_lift']);
  expect(dropPoint(duty, 0, 1)!.lines[0].points.map(({ time }) => time)).toEqual([0, 8]);
  expect(dropPoint({ ...duty, lines: [duty.lines[1]] }, 0, 0)).toBeNull();
  expect(dropLine({ ...duty, lines: [duty.lines[1]] }, 0)).toBeNull();
});

test('whatever is done to a duty, the server takes it', () => {
  const step = fc.record({
    kind: fc.constantFrom('move', 'add', 'drop', 'length'),
    line: fc.nat(5),
    point: fc.nat(9),
    time: fc.double({ min: -5, max: 20, noNaN: true }),
    value: fc.double({ min: -5, max: 5, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
      let now: OwnDuty | null = duty;
      for (const { kind, line: l, point: p, time, value } of steps) {
        if (now === null) break;
        const line: number = l % now.lines.length;
        const point = p % now.lines[line].points.length;
        if (kind === 'move') now = movePoint(now, line, point, time, value, variable);
        else if (kind === 'add') [now] = addPoint(now, line, time, value, variable);
        else if (kind === 'drop') now = dropPoint(now, line, point);
        else now = setLength(now, Math.max(0.5, time));
        if (now !== null) sound(now);
      }
    }),
    { endOnFailure: true },
  );
});
