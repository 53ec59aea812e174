import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, type BindingRow, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { quatFromTurn, restWorlds, rotateVector } from '../geometry';
import { checkRulebook, type Variable } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBinding } from './binding-operations';
import { directionInWords, probeDirections, SIDE_WAYS, type Verdict } from './directions';
import { negateTables } from './table-tools';

const { variables } = checkRulebook(brinework);
const measured = variables.filter(({ direction }) => direction !== undefined);

const pose = (value: number, fields: Partial<BindingRow>): BindingRow => ({
  value,
  offset: [0, 0, 0],
  turn: [0, 0, 0],
  size: [1, 1, 1],
  ...fields,
});

/** A bar from its pivot to a tip: +Z (forward) and a little up and left, so that each way round shows. */
function bar(fields: Partial<Kit['parts'][string]> = {}) {
  return chainKit([{ id: 'base' }, { id: 'bar', translation: [0.4, 1, 0.2], ...fields }]);
}

function bound(kit: Kit, blobs: MemoryBlobs, variable: Pick<Variable, 'name'>, rows: BindingRow[]): Kit {
  return run(kit, blobs, callOf(addBinding, { id: 'x', part: 'bar', variable: variable.name, index: null, outside: 'clamp', rows }));
}

const verdictOf = (kit: Kit, blobs: MemoryBlobs, variable: Variable): Verdict =>
  probeDirections(kit, blobs, Object.values(kit.bindings), variable)[0].verdict;

/** A motion that does what the direction says: a slide, or a turn, by hand. */
function rightRows({ direction, neutral, min, max }: Variable): BindingRow[] {
  const rows = (at: (share: number) => Partial<BindingRow>) => {
    const reach = Math.max(max - neutral, neutral - min);
    return [...new Set([neutral, min, max])].map((value) => pose(value, at((value - neutral) / reach)));
  };
  if ('from' in direction!) {
    const sign = direction.goes === 'clockwise' ? -1 : 1;
    return rows((share) => ({ turn: SIDE_WAYS[direction.from].map((one) => 60 * sign * share * one + 0) as Vec3 }));
  }
  const way = SIDE_WAYS[direction!.goes];
  return rows((share) => ({ offset: way.map((one) => 0.5 * share * one + 0) as Vec3 }));
}

test('of most variables of the shipped catalogue their way is measured', () => {
  expect(measured.length).toBeGreaterThanOrEqual(25);
});

test.each(measured.map((variable) => [variable.name, variable] as const))(
  '%s: the right way is right, its negative is caught, and turned round it is right again',
  (_, variable) => {
    const { kit, blobs } = bar();
    const right = bound(kit, blobs, variable, rightRows(variable));
    expect(verdictOf(right, blobs, variable)).toBe('right');
    const wrong = run(right, blobs, callOf(negateTables, { bindings: ['x'] }));
    expect(verdictOf(wrong, blobs, variable)).toBe('wrong');
    expect(verdictOf(run(wrong, blobs, callOf(negateTables, { bindings: ['x'] })), blobs, variable)).toBe('right');
  },
);

test('a turn shows the same way however the part’s own axes and those of its parent lie', () => {
  const angle = fc.double({ min: -170, max: 170, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(angle, angle, angle), fc.tuple(angle, angle, angle), fc.constantFrom(1, -1), (own, above, sign) => {
      const { kit, blobs } = chainKit([
        { id: 'base', rotation: quatFromTurn(above, 'xyz') },
        { id: 'bar', translation: [0.4, 1, 0.2], rotation: quatFromTurn(own, 'xyz') },
      ]);
      // The world's up, in the part's own axes, is what it turns about.
      const world = restWorlds(kit).get('bar')!;
      const up: Vec3 = [world[1], world[5], world[9]];
      const axis = [0, 1, 2].sort((a, b) => Math.abs(up[b]) - Math.abs(up[a]))[0];
      fc.pre(Math.abs(up[axis]) > 0.3);
      const turn = [0, 1, 2].map((i) => (i === axis ? sign * 40 : 0)) as Vec3;
      const variable = { ...variables[0], direction: { goes: 'counter-clockwise', from: 'up' } } as Variable;
      const rows = [pose(0, {}), pose(170, { turn })];
      const expected = sign * up[axis] > 0 ? 'right' : 'wrong';
      expect(verdictOf(bound(kit, blobs, variable, rows), blobs, variable)).toBe(expected);
    }),
  );
});

test('the point that goes furthest is the one furthest from the axis, and goes square to it', () => {
  const { kit, blobs } = bar();
  const variable: Variable = { ...variables[0], direction: { point: 'furthest', goes: 'up' } };
  const [found] = probeDirections(
    bound(kit, blobs, variable, [pose(0, {}), pose(170, { turn: [0, 40, 0] })]),
    blobs,
    Object.values(bound(kit, blobs, variable, [pose(0, {}), pose(170, { turn: [0, 40, 0] })]).bindings),
    variable,
  );
  // A wedge: (2, 0, 0) is furthest from its own upright axis.
  [2.4, 1, 0.2].forEach((value, axis) => expect(found.at[axis]).toBeCloseTo(value, 6));
  expect(found.verdict).toBe('astray');
  const chord = rotateVector(quatFromTurn([0, (40 * 17) / 170, 0], 'xyz'), [2, 0, 0]).map((value, axis) => value - [2, 0, 0][axis]);
  chord.forEach((value, axis) => expect(found.goes[axis]).toBeCloseTo(value, 9));
});

test('what only goes along is left open, what stands still is said to, and a named part is looked at where it is', () => {
  const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'bar' }, { id: 'hook', translation: [0, -2, 0] }]);
  kit.parts.weight = { ...kit.parts.bar, id: 'weight', name: 'weight', parent: 'base' };
  const up = (id: string, part: string, by: number) =>
    callOf(addBinding, {
      id,
      part,
      variable: 'gate_lift',
      index: 0,
      outside: 'clamp' as const,
      rows: [pose(0, {}), pose(2.4, { offset: [0, by, 0] })],
    });
  const gate = variables.find(({ name }) => name === 'gate_lift')!;
  const both = run(kit, blobs, up('x', 'bar', 1), up('y', 'weight', -0.2));
  const verdicts = (of: Kit) => probeDirections(of, blobs, Object.values(of.bindings), gate).map(({ verdict }) => verdict);
  expect(verdicts(both)).toEqual(['right', 'open']);
  expect(verdicts(run(both, blobs, callOf(negateTables, { bindings: ['x'] })))).toEqual(['wrong', 'open']);
  expect(verdicts(run(kit, blobs, up('x', 'bar', 0)))).toEqual(['still']);
  const named = { ...gate, direction: { point: { part: 'hook' }, goes: 'up' } } as Variable;
  const [found] = probeDirections(both, blobs, [both.bindings.x], named);
  expect([found.verdict, [...found.at]]).toEqual(['right', [0, -2, 0]]);
  const nobody = { ...gate, direction: { point: { part: 'nobody' }, goes: 'up' } } as Variable;
  expect(probeDirections(both, blobs, [both.bindings.x], nobody)[0].verdict).toBe('open');
});

test('ways are said in words', () => {
  expect(directionInWords({ point: 'topmost', goes: 'forward' })).toBe('its topmost point goes forward');
  expect(directionInWords({ point: { part: 'mnt_hook' }, goes: 'down' })).toBe('“mnt_hook” goes down');
  expect(directionInWords({ goes: 'clockwise', from: 'forward' })).toBe('it turns clockwise, seen from ahead');
});
