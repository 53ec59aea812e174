import fc from 'fast-check';
import { readNumber } from './read-number';

test.each<[string, string | undefined, number]>([
  ['2*1.5', 'm', 3],
  ['10in', 'm', 0.254],
  ['10 in', 'mm', 254],
  ['3/8in', 'mm', 9.525],
  ['45°+7.5', '°', 52.5],
  ['pi/2 rad', '°', 90],
  ['(pi/2) rad', '°', 90],
  ['0.5turn', '°', 180],
  ['1,5', 'm', 1.5],
  ['1,5+1,5', undefined, 3],
  ['1m + 20cm + 3mm', 'm', 1.203],
  ['6\' + 2"', 'm', 6 * 0.3048 + 2 * 0.0254],
  ['250ms', 's', 0.25],
  ['150%', '×', 1.5],
  ['50%', '%', 50],
  ['2×3', undefined, 6],
  ['-(2+3)', 'm', -5],
  ['1e-3', 'm', 0.001],
])('%s in %s', (text, unit, number) => {
  expect(readNumber(text, unit)).toBeCloseTo(number, 12);
});

test.each([
  ['', 'm'],
  ['abc', 'm'],
  ['10kg', 'm'],
  ['45°', 'm'],
  ['2+', 'm'],
  ['t', 's'],
  ['1/0', 'm'],
  ['10m)', 'm'],
])('“%s” is no number in %s', (text, unit) => {
  expect(Number.isFinite(readNumber(text, unit))).toBe(false);
});

test('whatever is typed gives a number or none, and a plain one is itself', () => {
  fc.assert(
    fc.property(
      fc.string(),
      fc.constantFrom('m', 'mm', '°', 's', '×', undefined),
      (text, unit) => typeof readNumber(text, unit) === 'number',
    ),
  );
  fc.assert(fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => readNumber(String(value), 'm') === value));
});
