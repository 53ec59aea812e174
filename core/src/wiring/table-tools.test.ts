import fc from 'fast-check';
import { callOf, type Binding, type BindingRow, type Outside } from '../document';
import { chainKit, run } from '../tests/helpers';
import { oddTables } from '../tests/odd-tables';
import { addBinding } from './binding-operations';
import { evaluateBinding } from './evaluate-binding';
import {
  addBetween,
  cutTable,
  measureValues,
  mirrorTable,
  negateTables,
  rebind,
  spreadTable,
  valueInRange,
  writeRows,
} from './table-tools';

const row = (value: number, turn: number, up = 0): BindingRow => ({ value, offset: [0, up, 0], turn: [0, turn, 0], size: [1, 1, 1] });

function bound(rows: BindingRow[], outside: Outside = 'clamp') {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const start = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside, rows }));
  return { start, do: (...calls: Parameters<typeof run>[2][]): Binding => run(start, blobs, ...calls).bindings.x };
}

const values = ({ rows }: Binding) => rows.map(({ value }) => value);

const closeTo = (a: ReturnType<typeof evaluateBinding>, b: ReturnType<typeof evaluateBinding>) => {
  for (const kind of ['offset', 'turn', 'size'] as const) a[kind].forEach((value, axis) => expect(value).toBeCloseTo(b[kind][axis], 8));
};

test('negated twice a table is what it was, and neutral stays to the bit', () => {
  fc.assert(
    fc.property(oddTables, (rows) => {
      const { start, do: does } = bound(rows);
      const negate = callOf(negateTables, { bindings: ['x'] });
      const once = does(negate);
      const neutral = start.bindings.x.rows[0];
      expect(once.rows[0]).toEqual(neutral);
      does(negate, negate).rows.forEach((one, i) => closeTo(one, start.bindings.x.rows[i]));
    }),
  );
});

test('mirrored about neutral, a motion is even about it: as far one way as the other', () => {
  fc.assert(
    fc.property(oddTables, fc.double({ min: 0, max: 60, noNaN: true }), (rows, far) => {
      const neutral = rows[0].value;
      fc.pre(rows.some(({ value }) => value > neutral));
      const even = bound(rows).do(callOf(mirrorTable, { binding: 'x', keep: 'above' }));
      const at = (value: number, of: 'offset' | 'turn') => evaluateBinding(even, value)[of];
      for (const kind of ['offset', 'turn'] as const)
        at(neutral + far, kind).forEach((value, axis) =>
          expect(Math.abs(value + at(neutral - far, kind)[axis] - 2 * rows[0][kind][axis])).toBeLessThan(1e-9),
        );
      expect(evaluateBinding(even, neutral).turn).toEqual(rows[0].turn);
    }),
  );
});

test('rows put between others, and a table that is cut at its range, move nothing within it', () => {
  fc.assert(
    fc.property(oddTables, fc.integer({ min: 1, max: 5 }), fc.double({ min: -40, max: 40, noNaN: true }), (rows, each, value) => {
      const { start, do: does } = bound(rows);
      const before = evaluateBinding(start.bindings.x, value);
      closeTo(evaluateBinding(does(callOf(addBetween, { binding: 'x', each })), value), before);
      const [least, most] = [Math.min(...rows.map((one) => one.value)), Math.max(...rows.map((one) => one.value))];
      fc.pre(most - least > 2 && rows[0].value > least && rows[0].value < most);
      const cut = does(callOf(cutTable, { binding: 'x', min: least + 0.5, max: most - 0.5 }));
      expect(Math.min(...values(cut))).toBe(least + 0.5);
      expect(cut.rows[0].value).toBe(rows[0].value);
      const within = Math.min(most - 0.5, Math.max(least + 0.5, value));
      closeTo(evaluateBinding(cut, within), evaluateBinding(start.bindings.x, within));
    }),
  );
});

test('moved up by 100 mm is 0.1 m: values are what was measured', () => {
  const lifted = bound([row(0, 0), row(1, 0, 0.1), row(2, 0, 0.35)]);
  expect(values(lifted.do(callOf(measureValues, { binding: 'x', of: 'offset', axis: 1, per: 1 })))).toEqual([0, 0.1, 0.35]);
  const turned = bound([row(5, 0), row(6, 90), row(7, -45)]);
  expect(values(turned.do(callOf(measureValues, { binding: 'x', of: 'turn', axis: 1, per: -1 })))).toEqual([5, -85, 50]);
  expect(() => lifted.do(callOf(measureValues, { binding: 'x', of: 'turn', axis: 0, per: 1 }))).toThrow(/one value/);
});

test('spread evenly, neutral stays and poses keep their order', () => {
  const { do: does } = bound([row(0, 0), row(-9, -1), row(1, 1), row(2, 2), row(10, 3)]);
  const spread = does(callOf(spreadTable, { binding: 'x' }));
  expect(values(spread)).toEqual([0, -9, 10 / 3, 20 / 3, 10]);
  expect(spread.rows.map(({ turn }) => turn[1])).toEqual([0, -1, 1, 2, 3]);
  expect(() => bound([row(0, 0), row(1, 1)]).do(callOf(spreadTable, { binding: 'x' }))).toThrow(/Three rows/);
});

test('rows are written beside those that there are, or instead of them; neutral stays first', () => {
  const { do: does } = bound([row(0, 0), row(-9, -1), row(4, 1)]);
  const rows = [row(4, 8), row(6, 9)];
  expect(values(does(callOf(writeRows, { binding: 'x', rows, instead: false })))).toEqual([0, -9, 4, 6]);
  const instead = does(callOf(writeRows, { binding: 'x', rows, instead: true }));
  expect([values(instead), instead.rows[1].turn[1]]).toEqual([[0, 4, 6], 8]);
});

test('bound to another range, ends are ends, neutral is neutral, and back again it is what it was', () => {
  const range = fc
    .uniqueArray(fc.integer({ min: -100, max: 100 }), { minLength: 3, maxLength: 3 })
    .map((three) => three.sort((a, b) => a - b))
    .map(([min, neutral, max]) => ({ min, neutral, max }));
  fc.assert(
    fc.property(range, range, fc.double({ min: -100, max: 100, noNaN: true }), (from, to, value) => {
      expect(['min', 'neutral', 'max'].map((key) => valueInRange(from[key as 'min'], from, to))).toEqual([to.min, to.neutral, to.max]);
      expect(valueInRange(valueInRange(value, from, to), to, from)).toBeCloseTo(value, 8);
    }),
  );
  const { do: does } = bound([row(0, 0), row(-1, -170), row(1, 170)]);
  const args = { binding: 'x', variable: 'w', index: 2, from: { min: -1, max: 1, neutral: 0 }, to: { min: -170, max: 170, neutral: 0 } };
  const moved = does(callOf(rebind, args));
  expect([moved.variable, moved.index, values(moved)]).toEqual(['w', 2, [0, -170, 170]]);
});
