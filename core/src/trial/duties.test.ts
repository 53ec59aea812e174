import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, type BindingRow, type Vec3 } from '../document';
import { checkRulebook } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBinding } from '../wiring';
import { DUTIES } from './brinework/duties';
import { checkDuty, DUTY_FORMAT, dutyAt, lineAt, type Duty } from './duties';
import type { Lever } from './lever';
import { playDuty } from './play-duty';

const rulebook = checkRulebook(brinework);

test.each(DUTIES.map((duty) => [duty.name, duty] as const))(
  '“%s” holds together, within the ranges of variables that there are',
  (_, duty) => {
    expect(checkDuty(JSON.parse(JSON.stringify(duty)))).toEqual(duty);
    for (const { variable, index, points } of duty.lines) {
      const known = rulebook.variables.find(({ name }) => name === variable)!;
      expect(known.kind === 'actual' || known.moves !== undefined).toBe(true);
      expect(known.indices === 0 ? index === null : index! < known.indices).toBe(true);
      for (const { time, value } of points) {
        expect(time).toBeLessThanOrEqual(duty.seconds);
        expect(value).toBeGreaterThanOrEqual(known.min);
        expect(value).toBeLessThanOrEqual(known.max);
      }
    }
  },
);

test('a line goes straight between its points, through each of them, and stays outside of them', () => {
  const points = fc
    .uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 6 })
    .map((times) => times.sort((a, b) => a - b).map((time) => ({ time, value: (time * 37) % 11 })));
  fc.assert(
    fc.property(points, fc.double({ min: 0, max: 1, noNaN: true }), (line, u) => {
      for (const { time, value } of line) expect(lineAt({ points: line }, time)).toBe(value);
      const [a, b] = line;
      expect(lineAt({ points: line }, a.time + u * (b.time - a.time))).toBeCloseTo(a.value + u * (b.value - a.value), 9);
      expect([lineAt({ points: line }, -5), lineAt({ points: line }, 500)]).toEqual([a.value, line.at(-1)!.value]);
    }),
  );
});

const duty = (fields: Partial<Duty>): Duty => ({
  format: DUTY_FORMAT,
  name: 'Test',
  about: '',
  seconds: 2,
  lines: [
    {
      variable: 'gate_lift',
      index: 0,
      points: [
        { time: 0, value: 0 },
        { time: 2, value: 2 },
      ],
    },
  ],
  ...fields,
});

test.each([
  [{ seconds: 0 }, /seconds/],
  [{ lines: [] }, /lines/],
  [
    {
      lines: [
        {
          variable: 'v',
          index: null,
          points: [
            { time: 1, value: 0 },
            { time: 1, value: 2 },
          ],
        },
      ],
    },
    /lines\.0\.points\.1 is not later/,
  ],
  [{ lines: [{ variable: 'v', index: null, points: [{ time: 1, value: 'high' as never }] }] }, /lines\[0\]\.points\[0\]\.value/],
])('%j is refused by name', (fields, sentence) => {
  expect(() => checkDuty({ ...duty({}), ...fields })).toThrow(sentence);
});

test('played, each part is where its table has it; what nothing follows, or goes beyond the range, is told', () => {
  const { kit, blobs } = chainKit([
    { id: 'base', translation: [0, 1, 0] },
    { id: 'leaf', translation: [0, 0, 3] },
  ]);
  const row = (value: number): BindingRow => ({ value, offset: [0, value / 2, 0] as Vec3, turn: [0, 0, 0], size: [1, 1, 1] });
  const bound = run(
    kit,
    blobs,
    callOf(addBinding, { id: 'x', part: 'leaf', variable: 'gate_lift', index: 0, outside: 'clamp', rows: [row(0), row(2.4)] }),
  );
  const variable = rulebook.variables.find(({ name }) => name === 'gate_lift')!;
  const levers: Lever[] = [{ key: 'gate_lift[0]', variable, index: 0, bindings: [bound.bindings.x], switches: [] }];
  const { frames, refused } = playDuty(
    bound,
    blobs,
    levers,
    duty({ lines: [...duty({}).lines, { variable: 'tide_height', index: null, points: [{ time: 0, value: 1 }] }] }),
    10,
    rulebook.variables,
  );
  expect(frames).toHaveLength(21);
  for (const { time, parts } of frames) {
    expect(parts.leaf.slice(12, 15).map((value) => Number(value.toFixed(9)))).toEqual([0, Number((1 + time / 2).toFixed(9)), 3]);
    expect(dutyAt(duty({}), time)['gate_lift[0]']).toBeCloseTo(time, 9);
  }
  expect(refused).toEqual([{ variable: 'tide_height', why: 'nothing of the package follows it' }]);
  const far = duty({ lines: [{ variable: 'gate_lift', index: 0, points: [{ time: 1, value: 9 }] }] });
  expect(playDuty(bound, blobs, levers, far, 1, rulebook.variables).refused[0].why).toMatch(/^9 at 1 s is beyond its range, 0 to 2\.4/);
});
