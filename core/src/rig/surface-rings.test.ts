import fc from 'fast-check';
import { surfaceRings } from './surface-rings';

const PLACES = 12;
const triangles = fc.array(fc.nat(PLACES - 1), { maxLength: 60 }).map((corners) => corners.slice(0, corners.length - (corners.length % 3)));

/** A second reading: a place's neighbours are what shares a side of a triangle with it. */
function neighboursByLooking(corners: readonly number[], place: number): number[] {
  const found = new Set<number>();
  for (let t = 0; t < corners.length; t += 3) {
    const own = corners.slice(t, t + 3);
    if (own.includes(place)) for (const other of own) if (other !== place) found.add(other);
  }
  return [...found].sort((a, b) => a - b);
}

test('every place is told what shares a side with it, each once, in rising order', () => {
  fc.assert(
    fc.property(triangles, (corners) => {
      const { at, neighbours } = surfaceRings(corners, PLACES);
      for (let place = 0; place < PLACES; place++)
        expect([...neighbours.subarray(at[place], at[place + 1])]).toEqual(neighboursByLooking(corners, place));
      expect(at[PLACES]).toBe(neighbours.length);
    }),
  );
});

test('who is beside one has it beside them', () => {
  fc.assert(
    fc.property(triangles, (corners) => {
      const { at, neighbours } = surfaceRings(corners, PLACES);
      const beside = (place: number) => [...neighbours.subarray(at[place], at[place + 1])];
      for (let place = 0; place < PLACES; place++) for (const other of beside(place)) expect(beside(other)).toContain(place);
    }),
  );
});

test('the middle of a fan has its whole rim about it; a place that nothing touches has none', () => {
  const { at, neighbours } = surfaceRings([0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 1], 6);
  expect([...neighbours.subarray(at[0], at[1])]).toEqual([1, 2, 3, 4]);
  expect([...neighbours.subarray(at[1], at[2])]).toEqual([0, 2, 4]);
  expect(at[6] - at[5]).toBe(0);
});
