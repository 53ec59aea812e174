import fc from 'fast-check';
import { callOf, type BindingRow, type Outside, type PoseDelta } from '../document';
import { flattenParts, Poser } from '../geometry';
import { chainKit, run } from '../tests/helpers';
import { oddTables } from '../tests/odd-tables';
import { addBinding, completeTable, setBinding } from './binding-operations';
import { addBindingPose, evaluateBinding, type AskedTable } from './evaluate-binding';
import { poseStation } from './stations';
import { straightRows } from './table-rows';
import { addBetween, cutTable, mirrorTable, negateTables } from './table-tools';

const CHANNELS = ['offset', 'turn', 'size'] as const;
const outsides = fc.constantFrom<Outside>('clamp', 'extend', 'wrap');
const anywhere = fc.double({ min: -90, max: 90, noNaN: true });

const curve = (rows: BindingRow[], outside: Outside = 'clamp'): AskedTable => ({ rows, outside, between: 'curve' });
const numbers = (pose: PoseDelta) => CHANNELS.flatMap((of) => pose[of]);
const apart = (a: PoseDelta, b: PoseDelta) => Math.max(...numbers(a).map((value, i) => Math.abs(value - numbers(b)[i])));

function bound(rows: BindingRow[], outside: Outside) {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const start = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside, between: 'curve', rows }));
  return { start: start.bindings.x, do: (...calls: Parameters<typeof run>[2][]) => run(start, blobs, ...calls).bindings.x };
}

test('a curve goes through each row to the bit, and between two rows never beyond them', () => {
  fc.assert(
    fc.property(oddTables, outsides, fc.double({ min: 0, max: 0.999, noNaN: true }), (rows, outside, share) => {
      const sorted = [...rows].sort((a, b) => a.value - b.value);
      // The last row of a round is the first of the next one.
      for (const row of outside === 'wrap' ? sorted.slice(0, -1) : sorted)
        expect(numbers(evaluateBinding(curve(rows, outside), row.value))).toEqual(numbers(row));
      sorted.slice(1).forEach((high, i) => {
        const low = sorted[i];
        const at = evaluateBinding(curve(rows, outside), low.value + (high.value - low.value) * share);
        for (const kind of CHANNELS)
          at[kind].forEach((value, axis) => {
            const [least, most] = [low[kind][axis], high[kind][axis]].sort((a, b) => a - b);
            expect(value).toBeGreaterThanOrEqual(least - 1e-9);
            expect(value).toBeLessThanOrEqual(most + 1e-9);
          });
      });
    }),
  );
});

/** By another way: the four coefficients of each stretch, slopes by the textbook’s three-point rule, one number alone. */
function secondReader(values: number[], at: number[], x: number): number {
  const h = values.slice(1).map((value, i) => value - values[i]);
  const d = h.map((width, i) => (at[i + 1] - at[i]) / width);
  const slope = values.map((_, i) => {
    const [before, after] = [i === 0 ? d[0] : d[i - 1], i === d.length ? d.at(-1)! : d[i]];
    const [wide, far] = [i === 0 ? h[0] : h[i - 1], i === h.length ? h.at(-1)! : h[i]];
    if (Math.sign(before) !== Math.sign(after) || before === 0) return 0;
    return (3 * (wide + far)) / ((2 * far + wide) / before + (far + 2 * wide) / after);
  });
  if (x <= values[0]) return at[0] + slope[0] * (x - values[0]);
  if (x >= values.at(-1)!) return at.at(-1)! + slope.at(-1)! * (x - values.at(-1)!);
  const i = values.findLastIndex((value) => value <= x);
  const s = x - values[i];
  const c = (3 * d[i] - 2 * slope[i] - slope[i + 1]) / h[i];
  const b = (slope[i] + slope[i + 1] - 2 * d[i]) / h[i] ** 2;
  return at[i] + s * (slope[i] + s * (c + s * b));
}

test('a second reader finds the same curve, on the bench’s pose as well', () => {
  fc.assert(
    fc.property(oddTables, anywhere, (rows, value) => {
      const sorted = [...rows].sort((a, b) => a.value - b.value);
      const expected = CHANNELS.flatMap((of) =>
        [0, 1, 2].map((axis) =>
          secondReader(
            sorted.map((row) => row.value),
            sorted.map((row) => row[of][axis]),
            value,
          ),
        ),
      );
      const table = curve(rows, 'extend');
      numbers(evaluateBinding(table, value)).forEach((one, i) =>
        expect(Math.abs(one - expected[i])).toBeLessThan(1e-8 * (1 + Math.abs(one))),
      );
      const { pose } = new Poser(flattenParts(chainKit([{ id: 'a' }]).kit));
      addBindingPose(table, value, 0, pose);
      expect([...pose.offset, ...pose.turn, ...pose.size]).toEqual(numbers(evaluateBinding(table, value)).map((one) => one + 0));
    }),
  );
});

test('a table that is even about neutral gives a motion that is, and neutral is rest to the bit', () => {
  fc.assert(
    fc.property(oddTables, fc.double({ min: 0, max: 60, noNaN: true }), (rows, far) => {
      const neutral = rows[0].value;
      fc.pre(rows.some(({ value }) => value > neutral));
      const own = { value: neutral, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] } as BindingRow;
      const even = bound([own, ...rows.slice(1)], 'clamp').do(callOf(mirrorTable, { binding: 'x', keep: 'above' }));
      expect(numbers(evaluateBinding(even, neutral))).toEqual(numbers(own));
      const [up, down] = [neutral + far, neutral - far].map((value) => evaluateBinding(even, value));
      for (const kind of ['offset', 'turn'] as const)
        up[kind].forEach((value, axis) => expect(Math.abs(value + down[kind][axis])).toBeLessThan(1e-9 * (1 + Math.abs(value))));
    }),
  );
});

/** Each gives a table more rows, and says within what nothing may go otherwise. */
const ADDING = {
  'rows between all': (rows: BindingRow[]) => ({
    call: callOf(addBetween, { binding: 'x', each: 1 + (rows.length % 3) }),
    within: [-90, 90],
  }),
  'a station as it stands': (rows: BindingRow[]) => {
    const value = rows[0].value + 0.37;
    return { call: null, value, within: [-90, 90] };
  },
  'a table that is completed': (rows: BindingRow[]) => ({
    call: callOf(completeTable, { binding: 'x', neutral: rows[0].value, min: -60, max: 55 }),
    within: [-90, 90],
  }),
  'a table that is cut': (rows: BindingRow[]) => {
    const [min, max] = [rows[0].value - 7.5, rows[0].value + 9.25];
    return { call: callOf(cutTable, { binding: 'x', min, max }), within: [min, max] };
  },
} as const;

test.each(Object.keys(ADDING) as (keyof typeof ADDING)[])('nothing goes otherwise by %s, twice over', (what) => {
  fc.assert(
    fc.property(
      oddTables,
      fc.constantFrom<Outside>('clamp', 'extend'),
      fc.array(anywhere, { minLength: 12, maxLength: 12 }),
      (rows, outside, looks) => {
        const { start, do: does } = bound(rows, outside);
        const told = ADDING[what](rows);
        const station = (table: AskedTable) => {
          const value = rows[0].value + 0.37;
          return callOf(poseStation, { rows: [{ binding: 'x', row: { value, ...evaluateBinding(table, value) } }] });
        };
        const call = told.call ?? station(start);
        const once = does(call);
        const again = does(call, callOf(addBetween, { binding: 'x', each: 1 }));
        const [least, most] = told.within;
        for (const look of looks) {
          const value = Math.min(most, Math.max(least, look));
          const there = evaluateBinding(start, value);
          const scale = Math.max(1, ...numbers(there).map(Math.abs));
          expect(apart(evaluateBinding(once, value), there)).toBeLessThan(1e-8 * scale);
          expect(apart(evaluateBinding(again, value), there)).toBeLessThan(1e-8 * scale);
        }
      },
    ),
    { endOnFailure: true },
  );
});

test('rows as good as at one value make no number that is none', () => {
  const row = (value: number, turn: number): BindingRow => ({ value, offset: [0, 0, 0], turn: [0, turn, 0], size: [1, 1, 1] });
  const rows = [row(0, 0), row(Number.MIN_VALUE, 40), row(2000 * Number.MIN_VALUE, -3), row(1, 90)];
  for (const outside of ['clamp', 'extend', 'wrap'] as const) {
    const { start, do: does } = bound(rows, outside);
    for (const table of [start, does(callOf(addBetween, { binding: 'x', each: 2 }))])
      for (const value of [-1, 0, Number.MIN_VALUE, 100 * Number.MIN_VALUE, 0.3, 1, 2])
        expect(numbers(evaluateBinding(table, value)).every((one) => Number.isFinite(one))).toBe(true);
    const { rows: more } = does(callOf(addBetween, { binding: 'x', each: 2 }));
    expect(more.flatMap(({ slope }) => (slope ? numbers(slope) : [])).every((one) => Number.isFinite(one))).toBe(true);
  }
});

test('turned round twice a curve is what it was, in between as well', () => {
  fc.assert(
    fc.property(oddTables, anywhere, (rows, value) => {
      const { start, do: does } = bound(rows, 'clamp');
      const round = callOf(negateTables, { bindings: ['x'] });
      const between = callOf(addBetween, { binding: 'x', each: 1 });
      const there = evaluateBinding(start, value);
      expect(apart(evaluateBinding(does(between, round, round), value), there)).toBeLessThan(1e-7);
    }),
  );
});

test('straight rows are within a tenth of a millimetre and a twentieth of a degree of the curve', () => {
  const row = (value: number, turn: number, up: number): BindingRow => ({ value, offset: [0, up, 0], turn: [0, turn, 0], size: [1, 1, 1] });
  const table = curve([row(0, 0, 0), row(-20, -15, 0.2), row(30, 80, -0.4), row(55, 85, 0.3)]);
  const rows = straightRows(table);
  expect(rows.length).toBeGreaterThan(20);
  for (let value = -25; value < 60; value += 0.0371) {
    const [a, b] = [evaluateBinding(table, value), evaluateBinding({ rows, outside: 'clamp' }, value)];
    expect(Math.abs(a.offset[1] - b.offset[1])).toBeLessThan(1e-4);
    expect(Math.abs(a.turn[1] - b.turn[1])).toBeLessThan(0.05);
  }
});

test('a table that goes straight again is as if it had never been otherwise', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const rows: BindingRow[] = [{ value: 0, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] }];
  const start = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside: 'clamp', rows }));
  const change = (between: 'curve' | 'straight') => callOf(setBinding, { binding: 'x', between });
  expect(run(start, blobs, change('curve')).bindings.x.between).toBe('curve');
  expect(run(start, blobs, change('curve'), change('straight'))).toEqual(start);
});
