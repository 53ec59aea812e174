import fc from 'fast-check';
import type { Condition } from '../document';
import { holdsOf, ValueSpace } from './boxes';
import type { ParameterRule } from './rules';

// More classes than one word of bits has room for, on both axes.
const NAMES = Array.from({ length: 64 }, (_, i) => `name ${i}`);
const RULES: ParameterRule[] = [
  { name: 'ahead', title: '', about: '', kind: 'number', unit: '', min: 0, max: 100 },
  { name: 'gait', title: '', about: '', kind: 'names', values: NAMES },
];
const bound = fc.option(fc.integer({ min: 0, max: 100 }));
const range = fc
  .tuple(bound, bound)
  .map(([atLeast, below]): Condition => ({ kind: 'range', parameter: 'ahead', atLeast: atLeast ?? (below === null ? 0 : null), below }));
const among = fc
  .uniqueArray(fc.constantFrom(...NAMES), { minLength: 1, maxLength: 60 })
  .map((values): Condition => ({ kind: 'among', parameter: 'gait', values }));
const asked = fc.array(fc.oneof(range, among), { maxLength: 3 });
const CUTS = Array.from({ length: 101 }, (_, i): Condition => ({ kind: 'range', parameter: 'ahead', atLeast: i, below: null }));

test('with more classes than a word has bits, what is left of a region is what trying every value finds', () => {
  fc.assert(
    fc.property(asked, fc.array(asked, { maxLength: 4 }), (when, others) => {
      const space = new ValueSpace(RULES, CUTS);
      const holds = (conditions: readonly Condition[], ahead: number, gait: string) =>
        conditions.every((one) => holdsOf(one, one.parameter === 'ahead' ? ahead : gait));
      const open = (ahead: number, gait: string) => holds(when, ahead, gait) && !others.some((one) => holds(one, ahead, gait));
      const tried = Array.from({ length: 101 }, (_, ahead) => ahead).some((ahead) => NAMES.some((gait) => open(ahead, gait)));
      const box = space.boxOf(when);
      const left =
        box &&
        space.outside(
          box.region,
          others.flatMap((one) => space.boxOf(one) ?? []),
        );
      expect(left !== null).toBe(tried);
      if (!left) return;
      const { ahead, gait } = space.valuesIn(left);
      expect(open(Number(ahead), String(gait))).toBe(true);
    }),
    { numRuns: 150, endOnFailure: true },
  );
});
