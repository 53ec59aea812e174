import fc from 'fast-check';
import type { MixKind, Peg } from '../document';
import { sharesOf } from './shares';

const peg = (at: number[], i: number): Peg => ({ id: `peg${i}`, clip: null, at, speed: 1 });
const round = (value: number) => Math.round(value * 100) / 100 + 0;
const number = fc.double({ min: -8, max: 8, noNaN: true }).map(round);

/** Places of a kind, no two the same nor nearly so. */
function placesOf(kind: MixKind): fc.Arbitrary<number[][]> {
  const one = kind === 'line' ? number.map((x) => [x]) : fc.tuple(number, number).map(([x, y]) => [x, y]);
  return fc
    .uniqueArray(one, {
      minLength: 1,
      maxLength: 12,
      comparator: (a: number[], b: number[]) => Math.hypot(...a.map((value, k) => value - b[k])) < 0.25,
    })
    .map((places) => (kind === 'around' ? [[0, 0], ...places.filter(([x, y]) => Math.hypot(x, y) > 0.25)] : places));
}

function at(kind: MixKind, places: number[][], where: number[]): number[] {
  const out = new Float64Array(places.length);
  sharesOf({ kind, pegs: places.map(peg) }).at(where, out);
  return [...out];
}

describe.each(['line', 'across', 'around'] as const)('shares of a mix: %s', (kind) => {
  const place = kind === 'line' ? number.map((x) => [x]) : fc.tuple(number, number).map(([x, y]) => [x, y]);

  test('they are from 0 to 1 and add up to 1, wherever it is', () => {
    fc.assert(
      fc.property(placesOf(kind), place, (places, where) => {
        const shares = at(kind, places, where);
        for (const share of shares) expect(share >= 0 && share <= 1).toBe(true);
        expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
      }),
      { numRuns: 2000, endOnFailure: true },
    );
  });

  test('a clip is played alone at its own place', () => {
    fc.assert(
      fc.property(placesOf(kind), (places) => {
        places.forEach((where, i) => expect(at(kind, places, where)[i]).toBeCloseTo(1, 9));
      }),
      { numRuns: 500, endOnFailure: true },
    );
  });

  test('they are continuous: a thousandth of a unit further they are nearly the same', () => {
    fc.assert(
      fc.property(placesOf(kind), place, fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }), (places, where, way) => {
        const step = [Math.cos(way), Math.sin(way)];
        const near = (far: number) =>
          at(
            kind,
            places,
            where.map((value, k) => value + far * step[k]),
          );
        const moved = (far: number) => Math.max(...near(far).map((share, i) => Math.abs(share - near(0)[i])));
        // Steep as they may be beside pegs that are close together, they go to nothing with the step.
        expect(moved(1e-3)).toBeLessThan(0.1);
        expect(moved(1e-6)).toBeLessThan(1e-4);
      }),
      { numRuns: 2000, endOnFailure: true },
    );
  });
});

test('on a line only the two neighbours are mixed, and what lies beyond them changes nothing', () => {
  fc.assert(
    fc.property(placesOf('line'), number, fc.constantFrom(-1, 1), (places, value, side) => {
      const shares = at('line', places, [value]);
      expect(shares.filter((share) => share > 0).length).toBeLessThanOrEqual(2);
      const [least, most] = [Math.min(...places.flat()), Math.max(...places.flat())];
      if (value < least || value > most) return;
      const far = [side < 0 ? least - 3 : most + 3];
      expect(at('line', [...places, far], [value]).slice(0, -1)).toEqual(shares);
    }),
  );
});

test('in a field a clip that is added behind another one changes nothing on this side of it', () => {
  const places = [
    [0, 0],
    [2, 0],
    [0, 2],
    [-2, 0],
    [0, -2],
  ];
  fc.assert(
    fc.property(fc.double({ min: -1.9, max: 1.9, noNaN: true }), fc.double({ min: -0.5, max: 0.5, noNaN: true }), (x, y) => {
      for (const kind of ['across', 'around'] as const) {
        const before = at(kind, places, [x, y]);
        const after = at(kind, [...places, [6, 0]], [x, y]);
        before.forEach((share, i) => expect(after[i]).toBeCloseTo(share, 9));
      }
    }),
  );
});

test('halfway between two clips each has a half: on a line, in a field, and by direction', () => {
  expect(at('line', [[1], [3]], [2])).toEqual([0.5, 0.5]);
  expect(
    at(
      'across',
      [
        [1, 0],
        [3, 0],
      ],
      [2, 5],
    ),
  ).toEqual([0.5, 0.5]);
  const [, ahead, aside] = at(
    'around',
    [
      [0, 0],
      [2, 0],
      [0, 2],
    ],
    [Math.SQRT2, Math.SQRT2],
  );
  expect(ahead).toBeCloseTo(0.5, 9);
  expect(aside).toBeCloseTo(0.5, 9);
});

test('round the middle a body that goes as fast aside as ahead is as far out', () => {
  // Across, the corner between ahead and aside would be nearer to the middle.
  const [middle] = at(
    'around',
    [
      [0, 0],
      [2, 0],
      [0, 2],
    ],
    [Math.SQRT2, Math.SQRT2],
  );
  expect(middle).toBeCloseTo(0, 9);
});
