import fc from 'fast-check';
import type { DerivedVariable } from '../document';
import { OwnNumbers, ownParameter, restOf } from './own-parameters';
import type { ParameterRule } from './rules';

const PASSED: ParameterRule[] = [
  { name: 'ahead', title: 'Ahead', about: '', kind: 'number', unit: 'm/s', min: -2, max: 7 },
  { name: 'height', title: 'Height', about: '', kind: 'number', unit: 'm', min: 1, max: 3 },
  { name: 'gait', title: 'Gait', about: '', kind: 'names', values: ['upright', 'limping'] },
];
const own = (name: string, expression: string, range: Partial<DerivedVariable> = {}): DerivedVariable => ({
  id: name,
  name,
  expression,
  unit: 'm/s',
  min: 0,
  max: 10,
  neutral: 0,
  ...range,
});

test('what is worked out is what its expression says, within its range, and follows those before it', () => {
  const numbers = new OwnNumbers([own('pace', 'abs(ahead) + height'), own('twice', '2 * pace', { max: 12 })], PASSED);
  fc.assert(
    fc.property(fc.double({ min: -2, max: 7, noNaN: true }), fc.double({ min: 1, max: 3, noNaN: true }), (ahead, height) => {
      const { pace, twice, gait } = numbers.with({ ahead, height, gait: 'limping' });
      expect(pace).toBeCloseTo(Math.min(10, Math.abs(ahead) + height), 12);
      expect(twice).toBeCloseTo(Math.min(12, 2 * (Math.abs(ahead) + height)), 12);
      expect(gait).toBe('limping');
    }),
  );
});

test('what is not passed in stands where it begins, and what can’t be read stands at its neutral value', () => {
  const numbers = new OwnNumbers(
    [own('sum', 'ahead + height'), own('odd', 'gait + 1', { neutral: 4 }), own('none', 'nothing * 2')],
    PASSED,
  );
  expect(numbers.with({})).toEqual({ sum: 1, odd: 4, none: 0 });
  expect([restOf(PASSED)('height', null), restOf(PASSED)('gait', null), restOf(PASSED)('ahead', 0)]).toEqual([1, null, null]);
});

test('nothing of the kit’s own leaves what is passed in as it is', () => {
  const values = { ahead: 1 };
  expect(new OwnNumbers(undefined, PASSED).with(values)).toBe(values);
});

test('a number of the kit’s own is described as the platform’s are', () => {
  expect(ownParameter(own('pace', 'abs(ahead)', { min: -1 }))).toMatchObject({
    kind: 'number',
    min: -1,
    max: 10,
    expression: 'abs(ahead)',
  });
});
