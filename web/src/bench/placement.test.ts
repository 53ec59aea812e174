import fc from 'fast-check';
import { newPart, type Vec3 } from '@itchkit/core/document';
import { quatFromTurn, multiplyQuats } from '@itchkit/core/geometry';
import { niceStep } from '../nice-step';
import { deltaOf } from './placement';

test('a placement read as offset, turn and size is the one that they make', () => {
  const number = fc.double({ min: -4, max: 4, noNaN: true });
  const angle = fc.double({ min: -80, max: 80, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(number, number, number), fc.tuple(angle, angle, angle), (offset, turn) => {
      const part = newPart({ name: 'a', translation: [1, 2, 3], rotation: quatFromTurn([20, -40, 70], 'xyz'), scale: [2, 1, 0.5] });
      const delta = deltaOf(
        part,
        {
          translation: part.translation.map((value, axis) => value + offset[axis]) as Vec3,
          rotation: multiplyQuats(part.rotation, quatFromTurn(turn, 'xyz')),
          scale: [3, 1, 1],
        },
        turn as Vec3,
      );
      delta.offset.forEach((value, axis) => expect(value).toBeCloseTo(offset[axis], 4));
      delta.turn.forEach((value, axis) => expect(value).toBeCloseTo(turn[axis], 2));
      expect(delta.size).toEqual([1.5, 1, 2]);
    }),
  );
});

test('dragged past a half turn, the turn goes on instead of jumping', () => {
  const part = newPart({ name: 'a' });
  const at = (degrees: number, near: number) =>
    deltaOf(part, { translation: [0, 0, 0], rotation: quatFromTurn([0, degrees, 0], 'xyz'), scale: [1, 1, 1] }, [0, near, 0]).turn[1];
  expect(at(190, 175)).toBeCloseTo(190, 3);
  expect(at(725, 715)).toBeCloseTo(725, 3);
});

test('ruler steps are round and few enough', () => {
  for (const [length, most] of [
    [9.86, 12],
    [0.03, 12],
    [986, 12],
  ]) {
    const step = niceStep(length, most);
    expect(length / step).toBeLessThanOrEqual(most);
    expect(['1', '2', '5']).toContain(step.toExponential()[0]);
  }
});
