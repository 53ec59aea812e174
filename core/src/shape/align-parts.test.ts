import fc from 'fast-check';
import { callOf, type Axis, type Vec3 } from '../document';
import { circleThrough, quatFromTurn, restBounds, restWorlds } from '../geometry';
import { chainKit, putSphere, run } from '../tests/helpers';
import { alignParts, snapParts } from './align-parts';
import { addCallout, calloutPoints, measure, removeCallouts } from './callouts';
import { massCentre } from './mass-centre';
import { applyScale } from './apply-scale';
import { applyRotation, setHingeAxis } from './hinge-axis';
import { joinParts } from './join-parts';
import { movePivot } from './move-pivot';
import { removeParts } from './remove-parts';

const angle = fc.double({ min: -180, max: 180, noNaN: true });

test('a side comes to its place, below turned and scaled parents too, and nothing else moves across', () => {
  fc.assert(
    fc.property(
      fc.tuple(angle, angle, angle),
      fc.constantFrom<Axis>(0, 1, 2),
      fc.double({ min: -5, max: 5, noNaN: true }),
      (turn, axis, at) => {
        const { kit, blobs } = chainKit([
          { id: 'a', rotation: quatFromTurn(turn as Vec3, 'xyz'), scale: [2, 2, 2] },
          { id: 'b', translation: [1, 0.5, 0] },
          { id: 'c', translation: [0, 1, 0] },
        ]);
        const next = run(kit, blobs, callOf(alignParts, { parts: ['b'], axis, side: 'low', at }));
        expect(restBounds(next, blobs, ['b', 'c']).min[axis]).toBeCloseTo(at, 6);
        const [before, after] = [kit, next].map((one) => restWorlds(one).get('b')!);
        for (const other of [0, 1, 2]) if (other !== axis) expect(after[12 + other]).toBeCloseTo(before[12 + other], 6);
        expect(next.parts.a).toEqual(kit.parts.a);
      },
    ),
    { numRuns: 50 },
  );
});

test('together, what lies between them stays', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 2, 0] }]);
  kit.parts.b.parent = null;
  const next = run(kit, blobs, callOf(alignParts, { parts: ['a', 'b'], axis: 1, side: 'middle', at: 10, together: true }));
  expect(next.parts.b.translation[1] - next.parts.a.translation[1]).toBeCloseTo(2, 9);
});

test('snapped numbers are whole steps, and a second time changes nothing', () => {
  const { kit, blobs } = chainKit([{ id: 'a', translation: [0.26, -0.13, 0.4999], rotation: quatFromTurn([0, 47, 0], 'xyz') }]);
  const next = run(kit, blobs, callOf(snapParts, { parts: ['a'], stepMetres: 0.25, stepDegrees: 15 }));
  expect(next.parts.a.translation).toEqual([0.25, -0.25, 0.5]);
  quatFromTurn([0, 45, 0], 'xyz').forEach((value, i) => expect(next.parts.a.rotation[i]).toBeCloseTo(value, 12));
  expect(run(next, blobs, callOf(snapParts, { parts: ['a'], stepMetres: 0.25, stepDegrees: 15 })).parts.a.translation).toEqual(
    next.parts.a.translation,
  );
});

test('measures: closed forms of distance, angle and circle', () => {
  expect(
    measure('distance', [
      [0, 0, 0],
      [3, 4, 0],
    ]),
  ).toBe(5);
  expect(
    measure('angle', [
      [1, 0, 0],
      [0, 0, 0],
      [0, 2, 0],
    ]),
  ).toBeCloseTo(90, 9);
  expect(measure('distance', [[0, 0, 0]])).toBeNull();
  expect(
    measure('radius', [
      [0, 0, 0],
      [1, 0, 0],
      [2, 0, 0],
    ]),
  ).toBeNull();
  fc.assert(
    fc.property(
      fc.double({ min: 0.1, max: 9, noNaN: true }),
      angle,
      fc.double({ min: 10, max: 100, noNaN: true }),
      fc.double({ min: 10, max: 100, noNaN: true }),
      (radius, first, one, two) => {
        const on = (degrees: number): Vec3 => [
          3 + radius * Math.cos((degrees * Math.PI) / 180),
          1 + radius * Math.sin((degrees * Math.PI) / 180),
          -2,
        ];
        const circle = circleThrough(on(first), on(first + one), on(first + one + two))!;
        expect(circle.radius).toBeCloseTo(radius, 6);
        [3, 1, -2].forEach((value, i) => expect(circle.centre[i]).toBeCloseTo(value, 6));
      },
    ),
  );
});

test('a kept measure follows its parts, and goes with them', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 2, 0] }]);
  const callout = {
    id: 'm',
    kind: 'distance' as const,
    points: [
      { part: 'a', at: [0, 0, 0] as Vec3 },
      { part: 'b', at: [0, 0, 0] as Vec3 },
    ],
  };
  const kept = run(kit, blobs, callOf(addCallout, callout));
  expect(measure('distance', calloutPoints(kept, callout))).toBe(2);
  expect(run(kept, blobs, callOf(removeParts, { parts: ['b'] })).callouts).toBeUndefined();
  expect(run(kept, blobs, callOf(removeCallouts, { callouts: ['m'] })).callouts).toBeUndefined();
  expect(() => run(kit, blobs, callOf(addCallout, { ...callout, points: callout.points.slice(1) }))).toThrow(/can't use/);
});

test('the middle of the mass of a ball is its middle; a sheet is weighed by its surface', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  putSphere(kit, blobs, 'ball', 16);
  kit.parts.a.mesh = 'ball';
  massCentre(kit, 'a', blobs).forEach((value) => expect(value).toBeCloseTo(0, 5));
});

test('measures stay where they are in the world, whatever is done to pivots, axes, scales and units', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', scale: [2, 2, 2], rotation: quatFromTurn([0, 30, 0], 'xyz') },
    { id: 'b', translation: [0, 2, 0] },
  ]);
  const callout = {
    id: 'm',
    kind: 'distance' as const,
    points: [
      { part: 'a', at: [0.5, 0, 0.2] as Vec3 },
      { part: 'b', at: [0.1, 0.3, 0] as Vec3 },
    ],
  };
  const kept = run(kit, blobs, callOf(addCallout, callout));
  const pointsOf = (one: typeof kept) => calloutPoints(one, one.callouts![0]);
  const before = pointsOf(kept);
  for (const call of [
    callOf(applyScale, { parts: ['a'] }),
    callOf(movePivot, { part: 'a', to: [0.3, 0.1, -0.4] }),
    callOf(setHingeAxis, { part: 'b', axis: 0, from: [0, 0, 0], to: [1, 1, 0] }),
    callOf(applyRotation, { parts: ['a'] }),
    callOf(joinParts, { into: 'a', parts: ['a', 'b'] }),
  ]) {
    const after = pointsOf(run(kept, blobs, call));
    after.forEach((point, i) => point.forEach((value, axis) => expect(value).toBeCloseTo(before[i][axis], 6)));
  }
});
