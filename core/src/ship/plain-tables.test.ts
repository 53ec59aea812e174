import brinework from '../../../rulebooks/brinework.rulebook.json';
import earlier from '../../../rulebooks/brinework-1.3.0.rulebook.json';
import { callOf, MemoryBlobs, type BindingRow, type Kit } from '../document';
import { changeOfSpace, CANONICAL, conforming } from '../geometry';
import { checkRulebook, type Rulebook } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBetween, addBinding, evaluateBinding } from '../wiring';
import { packKit } from './pack-kit';
import { plainTables } from './plain-tables';
import { readPackage } from './read-package';

const row = (value: number, turn: number, up: number): BindingRow => ({
  value,
  offset: [up, 0, up / 2],
  turn: [turn, 0, 0],
  size: [1, 1, 1],
});

function curved(): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'drv_boom' }]);
  const rows = [row(0, 0, 0), row(-20, 15, 0.1), row(30, -40, 0.4), row(55, -42, -0.2)];
  const add = callOf(addBinding, {
    id: 'x',
    part: 'drv_boom',
    variable: 'crane_luff_angle',
    index: 0,
    outside: 'clamp',
    between: 'curve',
    rows,
  });
  // Some rows say how fast they go there, others leave it to be chosen.
  return { kit: run(kit, blobs, add, callOf(addBetween, { binding: 'x', each: 1 })), blobs };
}

/** The greatest difference of the package’s table from the kit’s, metres and degrees, over the range and beyond. */
async function off(rulebook: Rulebook): Promise<{ metres: number; degrees: number; rows: number }> {
  const { kit, blobs } = curved();
  const loaded = (await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, new MemoryBlobs())).kit;
  const [table] = Object.values(loaded.bindings);
  const to = conforming(changeOfSpace(CANONICAL, rulebook.space), new MemoryBlobs());
  let [metres, degrees] = [0, 0];
  for (let value = -25; value < 60; value += 0.113) {
    const [made, read] = [evaluateBinding(kit.bindings.x, value), evaluateBinding(table, value)];
    to.place(made.offset).forEach((one, axis) => (metres = Math.max(metres, Math.abs(one - read.offset[axis]))));
    to.turn(made.turn).forEach((one, axis) => (degrees = Math.max(degrees, Math.abs(one - read.turn[axis]))));
  }
  return { metres, degrees, rows: table.rows.length };
}

test('where the platform knows curves the package’s table is the curve', async () => {
  const { metres, degrees, rows } = await off(checkRulebook(brinework));
  expect(rows).toBe(7);
  expect(metres).toBeLessThan(1e-9);
  expect(degrees).toBeLessThan(1e-9);
});

test('where it knows none the package has more rows, straight between, within a tenth of a millimetre and a twentieth of a degree', async () => {
  const { metres, degrees, rows } = await off(checkRulebook(earlier));
  expect(rows).toBeGreaterThan(12);
  expect(metres).toBeLessThan(1e-4);
  expect(degrees).toBeLessThan(0.05);
});

test('a kit without curves is left as it is', () => {
  const { kit } = chainKit([{ id: 'base' }]);
  expect(plainTables(kit, checkRulebook(earlier))).toBe(kit);
});
