import fc from 'fast-check';
import { create, all } from 'mathjs';
import { callOf, MemoryBlobs, type DerivedVariable, type Kit } from '../document';
import { derivedReaders, FormulaError, readDerived } from '../formula';
import { chainKit, run } from '../tests/helpers';
import { addBinding, neutralRow, removeDerived, setDerived, setSwitch } from '../wiring';
import emberfold from '@itchkit/rulebooks/emberfold';
import { walkingBody } from '../tests/walking-body';
import { runChecks } from './check-runner';
import { neutralsOf, withDerived } from './derived';
import { checkRulebook } from './schema';

const VARIABLES = neutralsOf([
  { name: 'tide_way', indices: 0, neutral: 0 },
  { name: 'gate_lift', indices: 3, neutral: 0.5 },
]);
const one = (name: string, expression: string): DerivedVariable => ({
  id: name,
  name,
  expression,
  unit: 'deg',
  min: 0,
  max: 360,
  neutral: 0,
});
const mathjs = create(all, {});

test('a wheel turns by the way that it has gone, within a whole turn', () => {
  const { value, looksAt } = readDerived(one('phase', 'wrap(tide_way / 0.42, 0, 360)'), VARIABLES, new Map());
  expect([...looksAt.keys()]).toEqual(['tide_way']);
  expect(value({ tide_way: 42 })).toBeCloseTo(100, 10);
  expect(value({ tide_way: 0.42 * 361 })).toBeCloseTo(1, 9);
  expect(value({ tide_way: -0.42 })).toBeCloseTo(359, 9);
  expect(value({})).toBe(0);
});

test('each gives what mathjs gives of the same text, whatever the levers stand at', () => {
  const texts = ['tide_way * 2 - gate_lift[1]', 'sin(tide_way) ^ 2', 'tide_way > 3 ? gate_lift[0] : -gate_lift[2]', 'max(tide_way, 1) % 7'];
  const number = fc.double({ min: -20, max: 20, noNaN: true });
  fc.assert(
    fc.property(fc.constantFrom(...texts), number, fc.tuple(number, number, number), (text, tide, lifts) => {
      const ours = readDerived(one('x', text), VARIABLES, new Map()).value({
        tide_way: tide,
        ...Object.fromEntries(lifts.map((lift, i) => [`gate_lift[${i}]`, lift])),
      });
      const plain = text.replaceAll(/gate_lift\[(\d)\]/g, 'gate_lift_$1');
      const scope = { tide_way: tide, gate_lift_0: lifts[0], gate_lift_1: lifts[1], gate_lift_2: lifts[2] };
      const theirs = Number(mathjs.evaluate(plain, scope));
      expect(Math.abs(ours - theirs)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(theirs)));
    }),
  );
});

test('one may look at another that stands before it, and then at all that this looks at', () => {
  const readers = derivedReaders([one('half', 'tide_way / 2'), one('sum', 'half + gate_lift[2]')], VARIABLES);
  expect(readers.get('sum')!.value({ tide_way: 6, 'gate_lift[2]': 10 })).toBe(13);
  expect([...readers.get('sum')!.looksAt.keys()]).toEqual(['tide_way', 'gate_lift[2]']);
  // The other way round it can't be worked out, and what can is.
  expect([...derivedReaders([one('sum', 'half + 1'), one('half', 'tide_way / 2')], VARIABLES).keys()]).toEqual(['half']);
});

test.each([
  ['tide', 'There is no “tide”', 1],
  ['gate_lift', 'There is no “gate_lift”', 1],
  ['gate_lift[3]', 'There is no “gate_lift” of that number', 1],
  ['tide_way[0]', 'There is no “tide_way” of that number', 1],
  ['2 * t', 'There is no “t”', 5],
  ['constructor', 'There is no “constructor”', 1],
  ['tide_way; 2', 'A formula is one expression', 9],
])('%s is refused at its character', (text, message, at) => {
  let caught: unknown;
  try {
    readDerived(one('x', text), VARIABLES, new Map());
  } catch (error) {
    caught = error;
  }
  expect(caught).toBeInstanceOf(FormulaError);
  expect((caught as FormulaError).message).toContain(message);
  expect((caught as FormulaError).message).toContain(`character ${at}`);
});

test('what is no number is neutral', () => {
  const { value } = readDerived({ expression: '1 / tide_way', neutral: 7 }, VARIABLES, new Map());
  expect([value({ tide_way: 0 }), value({ tide_way: 4 })]).toEqual([7, 0.25]);
});

function kitOf(): { kit: Kit; do: (...calls: Parameters<typeof run>[2][]) => Kit } {
  const { kit, blobs } = chainKit([{ id: 'wheel' }, { id: 'lamp' }]);
  const made = run(
    kit,
    blobs,
    callOf(setDerived, one('phase', 'tide_way / 0.42')),
    callOf(setDerived, { ...one('twice', '2 * phase'), min: -720, max: 720 }),
    callOf(addBinding, { id: 'x', part: 'wheel', variable: 'phase', index: null, outside: 'wrap', rows: [neutralRow(0)] }),
    callOf(setSwitch, { id: 's', part: 'lamp', variable: 'phase', index: null, spans: [{ from: 90, to: null }], among: '' }),
  );
  return { kit: made, do: (...calls) => run(made, blobs, ...calls) };
}

test('renamed, all that follows it goes along; taken away while something follows it, it is refused by that thing’s name', () => {
  const { do: after, kit } = kitOf();
  const renamed = after(callOf(setDerived, { ...kit.derived![0], name: 'wheel_phase' }));
  expect([renamed.bindings.x.variable, renamed.switches![0].variable, renamed.derived![1].expression]).toEqual([
    'wheel_phase',
    'wheel_phase',
    '2 * wheel_phase',
  ]);
  expect(() => after(callOf(removeDerived, { derived: ['phase'] }))).toThrow('“wheel” follows phase.');
  expect(after(callOf(removeDerived, { derived: ['twice'] })).derived).toHaveLength(1);
  expect(() => after(callOf(setDerived, { ...one('twice', '1'), id: 'other' }))).toThrow(
    'There is a variable “twice” of this kit already.',
  );
});

test('among a platform’s variables they stand as any other; one that has the name of one of those is left out', () => {
  const rulebook = { variables: [{ name: 'tide_way' }] } as never;
  expect(withDerived(rulebook, undefined)).toBe(rulebook);
  const both = withDerived(rulebook, [one('phase', 'tide_way'), one('tide_way', '1')]);
  expect(both.variables.map(({ name, group }) => [name, group])).toEqual([
    ['tide_way', undefined],
    ['phase', 'Of this kit'],
  ]);
});

test('where nothing is bound to variables, numbers that can be worked out of what is passed in stand among that; others are another platform’s', () => {
  const rules = checkRulebook(emberfold);
  const made = withDerived(rules, [one('pace', 'abs(ahead)'), one('phase', 'wrap(tide_way / 0.42, 0, 360)'), one('twice', '2 * pace')]);
  expect(made.variables).toEqual([]);
  expect(made.behaviours!.parameters.slice(rules.behaviours!.parameters.length).map(({ name }) => name)).toEqual(['pace', 'twice']);
  expect(withDerived(rules, [one('phase', 'tide_way')]).behaviours).toBe(rules.behaviours);
});

test('a number of another platform is no mistake here, until something goes by it', () => {
  const rulebook = checkRulebook(emberfold);
  const blobs = new MemoryBlobs();
  const body: Kit = { ...walkingBody(blobs, ['idle', 'walk']), derived: [one('phase', 'tide_way')] };
  const asking = (parameter: string): Kit => ({
    ...body,
    mixes: [{ id: 'mix', name: 'mix', kind: 'line', parameters: [parameter], pegs: [{ id: 'peg', clip: 'walk', at: [0], speed: 1 }] }],
    behaviour: {
      layers: [
        {
          id: 'body',
          name: 'Body',
          parts: [],
          how: 'replaces',
          first: 'go',
          states: [{ id: 'go', name: 'go', clip: null, mix: 'mix', speed: 1, loop: true }],
          passages: [],
        },
      ],
    },
  });
  const told = (kit: Kit) =>
    runChecks({ kit, rulebook, blobs })
      .filter(({ check }) => check === 'behaviour.known')
      .map(({ title }) => title);
  expect(told(asking('ahead'))).toEqual([]);
  expect(told(asking('phase'))).toEqual(['It is never passed in', 'It can’t be worked out']);
});
