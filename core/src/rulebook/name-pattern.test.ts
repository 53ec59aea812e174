import fc from 'fast-check';
import { NamePattern, PatternError } from './name-pattern';

const NAMES = [
  '',
  'a',
  'b',
  'aa',
  'ab',
  'aab',
  'abab',
  'base',
  'base_quay',
  'drv_slew_2',
  'Drv',
  'a_',
  '_a',
  'a__b',
  'x9',
  'ccc',
  'a-b',
  'ä',
];

test.each([
  '^base(_[a-z0-9]+)*$',
  '^[a-z][a-z0-9]*(_[a-z0-9]+)*$',
  'a{2,4}',
  '(ab){2}',
  'a?b+',
  '(?:a|b)*c?',
  '[^a-z]+',
  '\\w+',
  '\\D',
  'a{0}',
  '^$',
  '(a|ab)(b|)',
  'x\\d{1,2}',
  '[a\\-b]+',
  '.+',
])('%s says what JavaScript says', (pattern) => {
  const other = new RegExp(`^(?:${pattern.replace(/^\^|\$$/g, '')})$`);
  for (const name of NAMES) expect([name, new NamePattern(pattern).test(name)]).toEqual([name, other.test(name)]);
});

const piece: fc.Arbitrary<string> = fc.letrec<{ p: string }>((tie) => ({
  p: fc.oneof(
    { maxDepth: 3 },
    fc.constantFrom('a', 'b', '[ab]', '[^a]', 'c'),
    fc.tuple(tie('p'), tie('p')).map(([a, b]) => a + b),
    fc.tuple(tie('p'), tie('p')).map(([a, b]) => `(${a}|${b})`),
    fc.tuple(tie('p'), fc.constantFrom('?', '*', '+', '{1,2}', '{2}')).map(([a, sign]) => `(${a})${sign}`),
  ),
})).p;

test('any pattern that is taken says what JavaScript says', () => {
  fc.assert(
    fc.property(
      piece,
      fc.array(fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 6 }), { minLength: 5, maxLength: 5 }),
      (pattern, names) => {
        let ours: NamePattern;
        try {
          ours = new NamePattern(pattern);
        } catch (error) {
          expect(error).toBeInstanceOf(PatternError);
          return;
        }
        for (const name of names) expect(ours.test(name)).toBe(new RegExp(`^(?:${pattern})$`).test(name));
      },
    ),
    { seed: 4, numRuns: 500 },
  );
});

test.each(['(a+)+', '^(a*)*$', '(a|a)*', '(a|aa)+', '([a-z]+)*x', '(a?){30}', '(.*)*', '(a|a){40}', '(([a-z0-9]+_?)+)$', '(x+x+)+y'])(
  '%s is refused: it is exponential elsewhere',
  (pattern) => {
    expect(() => new NamePattern(pattern)).toThrow(PatternError);
  },
);

test.each(['[a-z]+[a-z0-9]*', '(_[a-z]+)*', '([a-z]+_)*[a-z]+', 'a*b*c*', '[a-z]{1,40}', '(ab?c)+'])('%s is taken', (pattern) => {
  expect(() => new NamePattern(pattern)).not.toThrow();
});

test.each(['(a', 'a)', '[a', 'a{3,1}', '*a', '(?=a)', '(a)\\1', 'a^b', '(?<n>a)', 'a\\', 'a{x}', 'a+?', 'a{600}b{600}', '('.repeat(30)])(
  '%s is no pattern',
  (pattern) => {
    expect(() => new NamePattern(pattern)).toThrow(PatternError);
  },
);

test('a long name against a tangled pattern takes a time that grows with its length', () => {
  const pattern = new NamePattern('[a-z]*[a-z0-9]*[a-z_]*[a-z]*x');
  expect(pattern.test('a'.repeat(100_000))).toBe(false);
});
