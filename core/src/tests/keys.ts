import fc from 'fast-check';
import { EASINGS, type Easing, type Key } from '../document';

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
      return sorted.map(({ at, value, easing }, i): Key => ({ time: i === 0 ? 0 : i === sorted.length - 1 ? 2 : at / 30, value, easing }));
    })
    .filter((keys) => keys.length > 1 && keys[keys.length - 1].time === 2);
