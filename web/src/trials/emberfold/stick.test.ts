import fc from 'fast-check';
import { stickAt, stickOfPads, TURNS, wishOfStick } from './stick';

const RANGE = { min: -2, max: 7 };

test('up is as fast as it goes, down backwards, aside turns to that side, and about the middle it stands', () => {
  expect(wishOfStick({ x: 0, y: 1 }, RANGE)).toEqual({ ahead: 7, turning: 0 });
  expect(wishOfStick({ x: 0, y: -1 }, RANGE)).toEqual({ ahead: -2, turning: 0 });
  expect(wishOfStick({ x: 1, y: 0 }, RANGE)).toEqual({ ahead: 0, turning: -TURNS });
  expect(wishOfStick({ x: -1, y: 0 }, RANGE)).toEqual({ ahead: 0, turning: TURNS });
  expect(wishOfStick({ x: 0.1, y: -0.12 }, RANGE)).toEqual({ ahead: 0, turning: 0 });
});

test('a body that goes no way backwards is not pulled back, and one without such a value only turns', () => {
  expect(wishOfStick({ x: 0, y: -1 }, { min: 0, max: 3 }).ahead).toBe(0);
  expect(wishOfStick({ x: -1, y: 1 }, null)).toEqual({ ahead: 0, turning: TURNS });
});

test('property: whatever a stick says, it is passed in within the range, the further the faster', () => {
  const place = fc.double({ min: -1.4, max: 1.4, noNaN: true });
  fc.assert(
    fc.property(place, place, place, (x, y, further) => {
      const one = wishOfStick({ x, y }, RANGE);
      expect(one.ahead).toBeGreaterThanOrEqual(RANGE.min);
      expect(one.ahead).toBeLessThanOrEqual(RANGE.max);
      expect(Math.abs(one.turning)).toBeLessThanOrEqual(TURNS);
      if (further > y) expect(wishOfStick({ x, y: further }, RANGE).ahead).toBeGreaterThanOrEqual(one.ahead);
    }),
  );
});

test('a place on the field is a stick’s, and a pad’s second axis goes down', () => {
  expect(stickAt(85, 0, 170)).toEqual({ x: 0, y: 1 });
  expect(stickAt(0, 170, 170)).toEqual({ x: -1, y: -1 });
  expect(stickOfPads([null, { connected: true, axes: [0.5, -1] }])).toEqual({ x: 0.5, y: 1 });
  expect(stickOfPads([null, { connected: false, axes: [1, 1] }])).toEqual({ x: 0, y: 0 });
});
