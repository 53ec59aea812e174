import type { Binding, BindingRow, Outside } from '@itchkit/core/document';
import { domainOf, kindsOf, responseLines } from './response';

const row = (value: number, fields: Partial<BindingRow> = {}): BindingRow => ({
  value,
  offset: [0, 0, 0],
  turn: [0, 0, 0],
  size: [1, 1, 1],
  ...fields,
});
const binding = (rows: BindingRow[], outside: Outside = 'clamp'): Binding => ({
  id: 'x',
  variable: 'v',
  index: null,
  part: 'a',
  rows,
  outside,
});

test('only what moves has a line, in millimetres and degrees', () => {
  const lifted = binding([row(0), row(2, { offset: [0, 0.5, 0], turn: [0, 0, 30] })]);
  expect(kindsOf([lifted])).toEqual(['turn', 'offset']);
  const [line, ...others] = responseLines([lifted], 'offset', [-1, 3]);
  expect(others).toEqual([]);
  expect([line.axis, line.points]).toEqual([
    1,
    [
      { value: -1, at: 0, row: false },
      { value: 0, at: 0, row: true },
      { value: 2, at: 500, row: true },
      { value: 3, at: 500, row: false },
    ],
  ]);
  expect(kindsOf([binding([row(0)])])).toEqual(['turn']);
});

test('beyond the table it is shown as it is played: on, or from the beginning', () => {
  const rows = [row(0), row(10, { turn: [10, 0, 0] })];
  const last = (outside: Outside) => responseLines([binding(rows, outside)], 'turn', [0, 15])[0].points.at(-1)!.at;
  expect([last('clamp'), last('extend'), last('wrap')]).toEqual([10, 15, 5]);
});

test('in view is the range and every row, with a little beyond', () => {
  const [from, to] = domainOf({ min: 0, max: 10 }, [binding([row(0), row(20)])]);
  expect([from < 0, from > -3, to > 20, to < 23]).toEqual([true, true, true, true]);
  expect(domainOf(undefined, [binding([row(4)])])).toEqual([3, 5]);
});
