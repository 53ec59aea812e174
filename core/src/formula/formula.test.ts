import fc from 'fast-check';
import { FORMULA_FUNCTIONS, FormulaError, readFormula } from './formula';

const at = (source: string, t = 0, u = 0, constants = {}) => readFormula(source, constants)(t, u);

test('expressions give what the same arithmetic gives in the language they are read by', () => {
  fc.assert(
    fc.property(fc.double({ min: -10, max: 10, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (t, u) => {
      expect(at('3*t - u^2 / 4', t, u)).toBeCloseTo(3 * t - u ** 2 / 4, 9);
      expect(at('-t^2 + -(u - 1)', t, u)).toBeCloseTo(-(t ** 2) - (u - 1), 9);
      expect(at('sin(tau * u) * swing', t, u, { swing: 12 })).toBeCloseTo(12 * Math.sin(2 * Math.PI * u), 9);
      expect(at('t > 2 ? 5 : max(t, -1, u)', t, u)).toBe(t > 2 ? 5 : Math.max(t, -1, u));
      const left = at('t % 2', t, u);
      expect(left >= -1e-12 && left < 2 + 1e-12).toBe(true);
    }),
  );
});

test.each(Object.entries(FORMULA_FUNCTIONS))('%s takes as many numbers as it says', (name, { arity: [least, most] }) => {
  const call = (n: number) => at(`${name}(${Array.from({ length: n }, () => '0.5').join(', ')})`);
  expect(Number.isFinite(call(least))).toBe(true);
  expect(Number.isFinite(call(most))).toBe(true);
  expect(() => call(most + 1)).toThrow(FormulaError);
});

test.each([
  ['sin(t', 4],
  ['2 + wave(t)', 4],
  ['2 + spede * t', 4],
  ['t = 3', 2],
  ['"text"', 1],
  ['[1, 2]', 0],
  ['t; u', 1],
  ['f(x) = x', 5],
  ['t!', 1],
  ['', 0],
  ['import("x")', 0],
  ['t.constructor', 1],
  ['createUnit(2)', 0],
  ['2 t 3 +', 6],
  ['not t', 0],
])('“%s” is refused at its character', (source, character) => {
  try {
    readFormula(source);
  } catch (error) {
    expect(error).toBeInstanceOf(FormulaError);
    expect((error as FormulaError).at).toBe(character);
    return;
  }
  throw new Error('it was read');
});

test('long and deep formulas are refused, and none takes long', () => {
  expect(() => readFormula('1+'.repeat(300) + '1')).toThrow(/400 characters/);
  expect(() => readFormula('('.repeat(150) + 't' + ')'.repeat(150))).toThrow(FormulaError);
  expect(() => readFormula('-'.repeat(60) + 't')).toThrow(/deeply/);
});
