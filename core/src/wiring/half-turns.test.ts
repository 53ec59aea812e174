import fc from 'fast-check';
import { callOf, type BindingRow, type Vec3 } from '../document';
import { chainKit, run } from '../tests/helpers';
import { addBinding } from './binding-operations';
import { evaluateBinding } from './evaluate-binding';
import { halfTurns, rowsTheShortWay } from './half-turns';
import { addBetween } from './table-tools';

const row = (value: number, turn: Vec3): BindingRow => ({ value, offset: [0, 0, 0], turn, size: [1, 1, 1] });
const triple = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -700, max: 700 }))) as fc.Arbitrary<Vec3>;
const tables = fc
  .uniqueArray(fc.integer({ min: -40, max: 40 }), { minLength: 2, maxLength: 7 })
  .chain((values) => fc.tuple(...values.map((value) => triple.map((turn) => row(value, turn))))) as fc.Arbitrary<BindingRow[]>;

test('half turns are told with their rows, the widest first', () => {
  const rows = [row(0, [0, 0, 0]), row(-10, [0, -180, 0]), row(20, [0, 250, 179])];
  expect(halfTurns({ rows }).map(({ from, to, axis, degrees }) => [from.value, to.value, axis, degrees])).toEqual([
    [0, 20, 1, 250],
    [-10, 0, 1, 180],
  ]);
});

test('the short way ends where the table does, but for whole rounds, and nothing goes by more than half a turn', () => {
  fc.assert(
    fc.property(tables, (rows) => {
      const short = rowsTheShortWay({ rows });
      expect(short[0]).toEqual(rows[0]);
      for (const one of short) {
        const made = rows.find(({ value }) => value === one.value)!;
        one.turn.forEach((degrees, axis) => expect((((degrees - made.turn[axis]) % 360) + 360) % 360).toBeCloseTo(0, 9));
      }
      const sorted = [...short].sort((a, b) => a.value - b.value);
      sorted
        .slice(1)
        .forEach(({ turn }, i) =>
          turn.forEach((degrees, axis) => expect(Math.abs(degrees - sorted[i].turn[axis])).toBeLessThanOrEqual(180)),
        );
    }),
  );
});

test('a table without half turns is played as it is; with rows between, one that had some is as well', () => {
  fc.assert(
    fc.property(tables, fc.double({ min: -45, max: 45, noNaN: true }), (rows, value) => {
      const { kit, blobs } = chainKit([{ id: 'a' }]);
      const bound = run(kit, blobs, callOf(addBinding, { id: 'x', part: 'a', variable: 'v', index: null, outside: 'clamp', rows }));
      const widest = Math.abs(halfTurns({ rows })[0]?.degrees ?? 0);
      const each = Math.floor(widest / 180);
      const done = each === 0 ? bound : run(bound, blobs, callOf(addBetween, { binding: 'x', each }));
      expect(halfTurns(done.bindings.x)).toEqual([]);
      const [made, short] = [rows, rowsTheShortWay(done.bindings.x)].map(
        (of) => evaluateBinding({ rows: of, outside: 'clamp' }, value).turn,
      );
      short.forEach((degrees, axis) => expect(degrees).toBeCloseTo(made[axis], 7));
    }),
  );
});
