import fc from 'fast-check';
import type { Condition, Layer, Passage } from '../document';
import { holdsOf } from './boxes';
import { firstQuestion, oppositeOf } from './first-question';
import type { ParameterRule } from './rules';

const base = { title: '', about: '' };
const ahead: ParameterRule = { ...base, name: 'ahead', kind: 'number', unit: 'm/s', min: -2, max: 7 };
const gait: ParameterRule = { ...base, name: 'gait', kind: 'names', values: ['upright', 'limping', 'crouching'] };
const down: ParameterRule = { ...base, name: 'down', kind: 'yes-no' };
const jolt: ParameterRule = { ...base, name: 'jolt', kind: 'signal' };

const asks = fc.oneof(
  fc
    .tuple(fc.integer({ min: -2, max: 7 }), fc.boolean())
    .map(([at, up]) => [{ kind: 'range', parameter: 'ahead', atLeast: up ? at : null, below: up ? null : at }, ahead] as const),
  fc
    .subarray(gait.kind === 'names' ? gait.values : [], { minLength: 1, maxLength: 2 })
    .map((values) => [{ kind: 'among', parameter: 'gait', values }, gait] as const),
  fc.constantFrom('yes', 'no').map((value) => [{ kind: 'among', parameter: 'down', values: [value] }, down] as const),
);

test('of a condition and its opposite exactly one holds, whatever is passed in', () => {
  const values = { ahead: [-2, -0.5, 0, 1, 2, 3, 4, 5, 6, 7], gait: ['upright', 'limping', 'crouching'], down: ['yes', 'no'], jolt: [] };
  fc.assert(
    fc.property(asks, ([condition, rule]) => {
      const opposite = oppositeOf(condition as Condition, rule)!;
      for (const value of values[rule.name as keyof typeof values])
        expect(holdsOf(condition as Condition, value)).toBe(!holdsOf(opposite, value));
    }),
    { endOnFailure: true },
  );
});

test('what has both ends, what is sent and what takes every name have no opposite that is one condition', () => {
  expect(oppositeOf({ kind: 'range', parameter: 'ahead', atLeast: 1, below: 2 }, ahead)).toBeNull();
  expect(oppositeOf({ kind: 'sent', parameter: 'jolt' }, jolt)).toBeNull();
  expect(oppositeOf({ kind: 'among', parameter: 'gait', values: ['upright', 'limping', 'crouching'] }, gait)).toBeNull();
});

test('a way back begins with the opposite of the way there, any other with the plain question', () => {
  const there: Passage = {
    id: 'there',
    from: 'stand',
    to: 'walk',
    except: [],
    after: 'any',
    over: 0.2,
    when: [{ kind: 'range', parameter: 'ahead', atLeast: 0.3, below: null }],
  };
  const layer = { passages: [there] } as unknown as Layer;
  expect(firstQuestion(layer, { from: 'walk', to: 'stand' }, ahead)).toEqual({
    kind: 'range',
    parameter: 'ahead',
    atLeast: null,
    below: 0.3,
  });
  expect(firstQuestion(layer, { from: 'walk', to: 'run' }, ahead)).toEqual({
    kind: 'range',
    parameter: 'ahead',
    atLeast: 3.5,
    below: null,
  });
  expect(firstQuestion(layer, { from: 'walk', to: 'stand' }, gait)).toEqual({ kind: 'among', parameter: 'gait', values: ['limping'] });
  expect(firstQuestion(layer, { from: 'walk', to: 'stand' }, jolt)).toEqual({ kind: 'sent', parameter: 'jolt' });
});
