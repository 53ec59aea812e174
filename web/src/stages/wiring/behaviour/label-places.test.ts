import fc from 'fast-check';
import { frameOf, labelPlaces, shared } from './label-places';

const size = { width: 250, height: 250 };

test('a mark alone has its words below it, one at the bottom above, one at the right side to its left', () => {
  const [middle] = labelPlaces([{ x: 120, y: 120, name: 'walk' }], size);
  expect(middle).toEqual({ dx: 0, dy: 20, anchor: 'middle' });
  expect(labelPlaces([{ x: 120, y: 236, name: 'walk' }], size)[0].dy).toBeLessThan(0);
  expect(labelPlaces([{ x: 240, y: 120, name: 'strafe-left' }], size)[0].anchor).toBe('end');
});

test('two marks that nearly touch are both read', () => {
  const marks = [
    { x: 100, y: 100, name: 'walk' },
    { x: 112, y: 104, name: 'walk-slow' },
    { x: 100, y: 118, name: 'limp' },
  ];
  const frames = labelPlaces(marks, size).map((place, i) => frameOf(marks[i], place));
  for (const [i, a] of frames.entries()) for (const b of frames.slice(i + 1)) expect(shared(a, b)).toBe(0);
});

test('property: nine marks with as much room as a field has leave no word over another, and none beyond the picture', () => {
  const jitter = fc.integer({ min: -9, max: 9 });
  fc.assert(
    fc.property(fc.array(fc.tuple(jitter, jitter, fc.integer({ min: 3, max: 10 })), { minLength: 9, maxLength: 9 }), (moves) => {
      const marks = moves.map(([dx, dy, letters], i) => ({
        x: 45 + 80 * (i % 3) + dx,
        y: 45 + 80 * Math.floor(i / 3) + dy,
        name: 'n'.repeat(letters),
      }));
      const frames = labelPlaces(marks, size).map((place, i) => frameOf(marks[i], place));
      for (const [i, a] of frames.entries()) {
        expect(a.left >= 0 && a.right <= size.width && a.top >= 0 && a.bottom <= size.height).toBe(true);
        for (const b of frames.slice(i + 1)) expect(shared(a, b)).toBe(0);
      }
    }),
  );
});
