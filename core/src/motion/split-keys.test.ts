import fc from 'fast-check';
import { EASINGS, type Easing, type Key } from '../document';
import { plainKeys } from '../oracles/plain-poser';
import { keysOf } from '../tests/keys';
import { keysBetween, splitKeys } from './split-keys';

const TIMES = Array.from({ length: 161 }, (_, i) => (2 * i) / 160 + 0.0007);

/** The greatest difference of two lists of keys over two seconds, as a share of how far the first goes. */
function off(a: readonly Key[], b: readonly Key[], times: readonly number[] = TIMES): number {
  const range = Math.max(1e-9, ...a.map(({ value }) => Math.abs(value - a[0].value)), Math.abs(a[0].value));
  return Math.max(...times.map((time) => Math.abs(plainKeys(a, time) - plainKeys(b, time)) / range));
}

const pair = (easing: Easing): Key[] => [
  { time: 0, value: 0, easing },
  { time: 2, value: 10, easing: 'hold' },
];

/** Of its way; what is of the third degree is kept exactly. */
const WITHIN: [family: string, within: number][] = [
  ['elastic', 1e-4],
  ['sine', 1e-5],
];
const withinOf = (easing: Easing) => WITHIN.find(([family]) => easing.startsWith(family))?.[1] ?? 1e-9;

test.each(EASINGS.map((easing) => [easing, withinOf(easing)] as const))(
  'a key within %s leaves it as it was, to %s of its way',
  (easing, within) => {
    for (const time of [0.013, 0.4, 1, 1.37, 1.99]) {
      const split = splitKeys(pair(easing), time);
      expect(split.some((key) => Math.abs(key.time - time) < 1e-9)).toBe(true);
      expect(off(pair(easing), split)).toBeLessThan(within);
      for (let i = 1; i < split.length; i++) expect(split[i].time).toBeGreaterThan(split[i - 1].time);
    }
  },
);

test('beside a held or a straight stretch a curve keeps the tangents that it chose for itself', () => {
  for (const easing of ['hold', 'straight', 'quad-in'] as const) {
    const keys: Key[] = [
      { time: 0, value: 0, easing: 'curve' },
      { time: 0.5, value: 3, easing },
      { time: 1.2, value: 4, easing: 'curve' },
      { time: 2, value: 9, easing: 'curve' },
    ];
    expect(off(keys, splitKeys(keys, 0.9))).toBeLessThan(1e-9);
    expect(off(keys, splitKeys(splitKeys(keys, 0.9), 0.7))).toBeLessThan(1e-9);
  }
});

test('a tangent of the last key makes no bump when a later key comes', () => {
  const keys: Key[] = [
    { time: 0, value: 0, easing: 'curve' },
    { time: 1, value: 5, easing: 'curve', slopeIn: 8, slopeOut: 30 },
  ];
  const later = splitKeys(keys, 1.8);
  expect(later.at(-1)).toMatchObject({ time: 1.8, value: 5 });
  expect(off(keys, later)).toBeLessThan(1e-12);
});

test('before the first key it is held, and at a key nothing is set', () => {
  const keys: Key[] = [
    { time: 0.5, value: 2, easing: 'curve' },
    { time: 2, value: -1, easing: 'curve' },
  ];
  const earlier = splitKeys(keys, 0.2);
  expect(earlier[0]).toEqual({ time: 0.2, value: 2, easing: 'hold' });
  expect(off(keys, earlier)).toBeLessThan(1e-12);
  expect(splitKeys(keys, 0.5)).toEqual(keys);
  expect(splitKeys([], 1)).toEqual([]);
});

test('many keys one after the other change nothing, whatever the easings', () => {
  fc.assert(
    fc.property(
      keysOf(EASINGS),
      fc.array(fc.double({ min: 0.001, max: 1.999, noNaN: true }), { minLength: 1, maxLength: 6 }),
      (keys, times) => {
        const split = times.reduce<Key[]>((list, time) => splitKeys(list, time), [...keys]);
        const away = TIMES.filter((time) => keys.every((key) => Math.abs(key.time - time) > 1e-4));
        expect(off(keys, split, away)).toBeLessThan(3e-4);
      },
    ),
    { numRuns: 60 },
  );
});

test('what lies between two times is there as it was, with a key at each end', () => {
  fc.assert(
    fc.property(
      keysOf(EASINGS),
      fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      fc.double({ min: 1, max: 1.95, noNaN: true }),
      (keys, from, to) => {
        const part = keysBetween({ keys }, from, to);
        expect([part[0].time, part.at(-1)!.time]).toEqual([expect.closeTo(from, 5), expect.closeTo(to, 5)]);
        const inside = TIMES.filter((time) => time > from && time < to && keys.every((key) => Math.abs(key.time - time) > 1e-4));
        if (inside.length > 0) expect(off(keys, part, inside)).toBeLessThan(3e-4);
      },
    ),
    { numRuns: 60 },
  );
});
