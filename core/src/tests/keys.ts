import fc from 'fast-check';
import { EASINGS, type Easing, type Key } from '../document';

const bare = ({ value, easing }: { value: number; easing: Easing }) => ({ value, easing });

/** Two to six keys on frames of a clip of two seconds, the first at its start and the last at its end. */
export const keysOf = (easings: readonly Easing[] = EASINGS) =>
  fc
    .array(
      fc.record({
        at: fc.integer({ min: 1, max: 59 }),
        value: fc.double({ min: -50, max: 50, noNaN: true }),
        easing: fc.constantFrom(...easings),
      }),
      { minLength: 2, maxLength: 6 },
    )
    .map((list) => {
      const sorted = [...new Map(list.map((one) => [one.at, one])).values()].sort((a, b) => a.at - b.at);
      const inner = sorted.slice(1, -1).map(({ at, value, easing }): Key => ({ time: at / 30, value, easing }));
      const [first, last] = [sorted[0], sorted[sorted.length - 1]];
      return [{ ...bare(first), time: 0 }, ...inner, { ...bare(last), time: 2 }];
    })
    .filter((keys) => keys.length > 1 && keys[keys.length - 1].time === 2);
