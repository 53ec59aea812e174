import fc from 'fast-check';
import { callOf, type BindingRow, type Outside } from '../document';
import { leverKey } from '../formula';
import { chainKit, run } from '../tests/helpers';
import { addBinding, completeTable, type Completion, setBinding, setBindingRow } from './binding-operations';
import { evaluateBinding } from './evaluate-binding';

const row = (value: number, turn: number): BindingRow => ({ value, offset: [0, 0, 0], turn: [0, turn, 0], size: [1, 1, 1] });
const table = (outside: Outside) => ({ outside, rows: [row(0, 0), row(-10, -20), row(10, 40)] });
const turnAt = (outside: Outside, value: number) => evaluateBinding(table(outside), value).turn[1];

test('between rows it goes straight, whatever their order in the table', () => {
  expect(turnAt('clamp', 5)).toBeCloseTo(20, 12);
  expect(turnAt('clamp', -5)).toBeCloseTo(-10, 12);
  expect(turnAt('clamp', -10)).toBe(-20);
});

test('beyond the table: stay, go on, begin again', () => {
  expect(turnAt('clamp', 15)).toBe(40);
  expect(turnAt('extend', 15)).toBeCloseTo(60, 12);
  expect(turnAt('extend', -15)).toBeCloseTo(-30, 12);
  expect(turnAt('wrap', 15)).toBeCloseTo(turnAt('wrap', -5), 12);
  expect(turnAt('wrap', -25)).toBeCloseTo(turnAt('wrap', -5), 12);
});

test('every outside agrees inside the table', () => {
  fc.assert(
    fc.property(fc.double({ min: -10, max: 9.999, noNaN: true }), (value) => {
      expect(turnAt('extend', value)).toBeCloseTo(turnAt('clamp', value), 9);
      expect(turnAt('wrap', value)).toBeCloseTo(turnAt('clamp', value), 9);
    }),
  );
});

test('one row stands for all values, and an empty table is rest', () => {
  expect(evaluateBinding({ outside: 'extend', rows: [row(3, 7)] }, 99).turn).toEqual([0, 7, 0]);
  expect(evaluateBinding({ outside: 'wrap', rows: [] }, 1)).toEqual({ offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] });
});

test.each<Outside>(['clamp', 'extend', 'wrap'])('what is no number gives an end row (%s)', (outside) => {
  expect(turnAt(outside, NaN)).toBe(-20);
  expect(turnAt(outside, -Infinity)).toBe(-20);
  expect(turnAt(outside, Infinity)).toBe(40);
});

test.each([
  ['two rows of one value', [row(0, 0), row(4, 1), row(4, 2)], /rows\[2\].*one row a value/],
  ['a value that is no number', [row(0, 0), row(NaN, 1)], /rows\[1\]/],
  ['a turn without an end', [row(0, 0), row(1, Infinity)], /rows\[1\]/],
])('%s are refused at the door', (_, rows, sentence) => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const add = (table: BindingRow[]) =>
    callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside: 'clamp', rows: table });
  expect(() => run(kit, blobs, add(rows))).toThrow(sentence);
  const bound = run(kit, blobs, add([row(0, 0)]));
  expect(() => run(bound, blobs, callOf(setBinding, { binding: 'x', rows }))).toThrow(sentence);
});

test('completing a table changes no pose and puts neutral first', () => {
  fc.assert(
    fc.property(fc.constantFrom<Outside>('clamp', 'extend'), fc.double({ min: -60, max: 60, noNaN: true }), (outside, value) => {
      const { kit, blobs } = chainKit([{ id: 'a' }]);
      const rows = [row(5, 50), row(-2, 0)];
      const bound = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside, rows }));
      const done = run(bound, blobs, callOf(completeTable, { binding: 'x', neutral: 0, min: -30, max: 30 }));
      expect(done.bindings.x.rows.map((one) => one.value)).toEqual([0, -30, -2, 5, 30]);
      const before = evaluateBinding({ outside, rows }, value).turn[1];
      expect(Math.abs(evaluateBinding(done.bindings.x, value).turn[1] - before)).toBeLessThan(1e-9 * Math.max(1, Math.abs(before)));
    }),
  );
});

test('completed straight on, a table goes on along its last two rows, and its own rows stay', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const rows = [row(0, 0), row(5, 50)];
  const bound = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside: 'clamp', rows }));
  const done = (by: Completion) =>
    run(bound, blobs, callOf(completeTable, { binding: 'x', neutral: 0, min: -2, max: 10, by })).bindings.x.rows.map((one) => one.turn[1]);
  expect(done('straight')).toEqual([0, -20, 50, 100]);
  expect(done('as-played')).toEqual([0, 0, 50, 50]);
});

test('a row moved to another value stays one row, and the neutral row stays first', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const bound = run(
    kit,
    blobs,
    callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: 2, outside: 'clamp', rows: [row(0, 0), row(9, 1)] }),
  );
  expect(bound.parts.a.role).toBe('driven');
  const next = run(bound, blobs, callOf(setBindingRow, { binding: 'x', row: row(-4, 8), replaces: 9 }));
  expect(next.bindings.x.rows.map((one) => one.value)).toEqual([0, -4]);
  expect(leverKey('v', 2)).toBe('v[2]');
});

test('any table gives what sorting it, and looking up the two rows about the value, gives', () => {
  const values = fc.array(fc.integer({ min: -6, max: 6 }), { minLength: 1, maxLength: 9 });
  const outside = fc.constantFrom<Outside>('clamp', 'extend', 'wrap');
  fc.assert(
    fc.property(values, outside, fc.double({ min: -20, max: 20, noNaN: true }), fc.boolean(), (list, beyond, any, onRow) => {
      const rows = list.map((value, i) => row(value, 7 * i + value * value));
      const value = onRow ? list[0] : any;
      const sorted = [...new Map(rows.map((one) => [one.value, one])).values()].sort((a, b) => a.value - b.value);
      const told = evaluateBinding({ outside: beyond, rows }, value).turn[1];
      if (sorted.length === 1) return expect(told).toBe(sorted[0].turn[1]);
      const [low, high] = [sorted[0].value, sorted.at(-1)!.value];
      const round = ((((value - low) % (high - low)) + (high - low)) % (high - low)) + low;
      const at = { clamp: Math.min(high, Math.max(low, value)), extend: value, wrap: round }[beyond];
      const after = sorted.findIndex((one) => one.value > at);
      const i = after < 0 ? sorted.length - 2 : Math.max(0, after - 1);
      const share = (at - sorted[i].value) / (sorted[i + 1].value - sorted[i].value);
      expect(told).toBeCloseTo(sorted[i].turn[1] + share * (sorted[i + 1].turn[1] - sorted[i].turn[1]), 9);
    }),
    { numRuns: 500 },
  );
});
