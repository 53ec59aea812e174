import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';
import { checkRulebook } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBinding } from './binding-operations';
import { probeDirections } from './directions';
import { proposedRows } from './proposed-rows';

const { variables } = checkRulebook(brinework);
const variableOf = (name: string) => variables.find((one) => one.name === name)!;
const measured = variables.filter(({ direction, unit }) => direction && ('from' in direction ? unit === 'deg' : unit === 'm'));
const quarter = fc.constantFrom(0, 90, 180, 270);

test('what is proposed goes the way that the rulebook says, however the axes of the part and its parent lie', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...measured),
      fc.tuple(quarter, quarter, quarter),
      fc.tuple(quarter, quarter, quarter),
      (variable, own, above) => {
        const { kit, blobs } = chainKit([
          { id: 'base', rotation: quatFromTurn(above as Vec3, 'xyz'), scale: [2, 2, 2] },
          { id: 'part', rotation: quatFromTurn(own as Vec3, 'xyz') },
        ]);
        const rows = proposedRows(kit, 'part', variable);
        const call = callOf(addBinding, { id: 'x', part: 'part', variable: variable.name, index: null, outside: 'clamp', rows });
        const bound = run(kit, blobs, call);
        const [found] = probeDirections(bound, blobs, Object.values(bound.bindings), variable);
        expect(found.verdict).toBe('right');
        expect(rows[0]).toEqual({ value: variable.neutral, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] });
      },
    ),
  );
});

test('a metre is a metre of the world, a degree a degree; where nothing says so, or an axis lies askew, all is at rest', () => {
  const { kit } = chainKit([
    { id: 'base', scale: [2, 2, 2] },
    { id: 'part', rotation: quatFromTurn([30, 0, 0], 'xyz') },
  ]);
  expect(proposedRows(kit, 'part', variableOf('gate_lift')).map(({ value, offset }) => [value, offset[1]])).toEqual([
    [0, 0],
    [2.4, 1.2],
  ]);
  expect(proposedRows(kit, 'base', variableOf('crane_slew_angle')).map(({ value, turn }) => [value, turn[1]])).toEqual([
    [0, 0],
    [-170, -170],
    [170, 170],
  ]);
  const still = (part: string, name: string) =>
    proposedRows(kit, part, variableOf(name)).every(({ offset, turn }) => [...offset, ...turn].every((value) => value === 0));
  expect([still('part', 'crane_slew_angle'), still('base', 'crane_luff_angle'), still('base', 'lamp_glow')]).toEqual([true, true, true]);
});
