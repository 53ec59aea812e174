import { callOf, type BindingRow } from '../document';
import { chainKit, run } from '../tests/helpers';
import { addBinding } from './binding-operations';
import { moveStation, poseStation, removeStation, stationsOf } from './stations';

const row = (value: number, turn: number): BindingRow => ({ value, offset: [0, 0, 0], turn: [0, turn, 0], size: [1, 1, 1] });

/** Two parts that follow one variable; the second has a row more. */
function two() {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  const add = (id: string, part: string, rows: BindingRow[]) =>
    callOf(addBinding, { id, part, variable: 'v', index: null, outside: 'clamp' as const, rows });
  const both = run(kit, blobs, add('x', 'a', [row(0, 0), row(4, 9)]), add('y', 'b', [row(0, 0), row(4, -9), row(7, -20)]));
  return { both, do: (...calls: Parameters<typeof run>[2][]) => run(both, blobs, ...calls).bindings };
}

test('one station poses several parts, each in its own table', () => {
  const { both, do: does } = two();
  expect(stationsOf(Object.values(both.bindings))).toEqual([
    { value: 0, bindings: ['x', 'y'], neutral: true },
    { value: 4, bindings: ['x', 'y'], neutral: false },
    { value: 7, bindings: ['y'], neutral: false },
  ]);
  const posed = does(
    callOf(poseStation, {
      rows: [
        { binding: 'x', row: row(5, 30) },
        { binding: 'y', row: row(5, -30) },
      ],
    }),
  );
  expect([posed.x.rows[2], posed.y.rows[2]]).toEqual([row(5, 30), row(5, -30)]);
});

test('a station is moved and deleted in every table that has it', () => {
  const { do: does } = two();
  const moved = does(callOf(moveStation, { bindings: ['x', 'y'], from: 4, to: -2 }));
  expect([moved.x.rows, moved.y.rows].map((rows) => rows.map(({ value }) => value))).toEqual([
    [0, -2],
    [0, -2, 7],
  ]);
  const gone = does(callOf(removeStation, { bindings: ['x', 'y'], value: 4 }));
  expect([gone.x.rows.length, gone.y.rows.length]).toEqual([1, 2]);
});

test('neutral is rest: it is not posed, moved or deleted, and no station is put on another one', () => {
  const { do: does } = two();
  expect(() => does(callOf(poseStation, { rows: [{ binding: 'x', row: row(0, 5) }] }))).toThrow(/it is neutral/);
  expect(() => does(callOf(moveStation, { bindings: ['x'], from: 0, to: 1 }))).toThrow(/it is neutral/);
  expect(() => does(callOf(removeStation, { bindings: ['x'], value: 0 }))).toThrow(/it is neutral/);
  expect(() => does(callOf(moveStation, { bindings: ['x', 'y'], from: 4, to: 7 }))).toThrow(/“b” is posed at 7 already/);
});
