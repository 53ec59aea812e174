import { emptyKit, MemoryBlobs, newPart, putArray, type SampleTrack } from '@itchkit/core/document';
import { quatFromTurn } from '@itchkit/core/geometry';
import { denseLines, keyProperty, within } from './curve-lines';

const blobs = new MemoryBlobs();
const kit = emptyKit('turning');
kit.parts.a = newPart({ id: 'a', name: 'a' });

function dense(
  property: SampleTrack['property'],
  interpolation: SampleTrack['interpolation'],
  times: number[],
  values: number[],
  size: number,
): SampleTrack {
  return {
    kind: 'samples',
    id: property,
    part: 'a',
    property,
    interpolation,
    times: putArray(blobs, Float32Array.from(times), 1),
    values: putArray(blobs, Float32Array.from(values), size),
  };
}

test('a rotation is a line an axis, and goes on past half a turn', () => {
  const degrees = [0, 60, 120, 180, 240, 300, 360, 540 - 120];
  const track = dense(
    'rotation',
    'straight',
    [...degrees.keys()],
    degrees.flatMap((value) => quatFromTurn([0, value, 0], 'xyz')),
    4,
  );
  const lines = denseLines(kit, [track], blobs);
  expect(lines.map(({ property, axis }) => [property, axis])).toEqual([
    ['turn', 0],
    ['turn', 1],
    ['turn', 2],
  ]);
  lines[1].points.forEach(([time, value], i) => {
    expect(time).toBe(i);
    expect(value).toBeCloseTo(degrees[i], 3);
  });
  for (const line of [lines[0], lines[2]]) for (const [, value] of line.points) expect(value).toBeCloseTo(0, 3);
});

/** A cubic by de Casteljau's construction, from its ends and the tangents there. */
function onCubic([from, out, into, to]: number[], span: number, u: number): number {
  let points = [from, from + (out * span) / 3, to - (into * span) / 3, to];
  while (points.length > 1) points = points.slice(1).map((point, i) => points[i] + (point - points[i]) * u);
  return points[0];
}

test('of a curve its cubics are drawn, not its tangents; weights have as many lines as targets', () => {
  // In-tangent, value, out-tangent.
  const track = dense('offset', 'curve', [0, 1], [9, 9, 9, 1, 2, 3, 9, 9, 9, 9, 9, 9, 4, 5, 6, 9, 9, 9], 3);
  const lines = denseLines(kit, [track], blobs);
  expect(lines.map(({ points }) => [points[0], points.at(-1)])).toEqual(
    [1, 2, 3].map((from) => [
      [0, from],
      [1, from + 3],
    ]),
  );
  for (const { points, axis } of lines) {
    expect(points.length).toBeGreaterThan(8);
    for (const [time, value] of points) expect(value).toBeCloseTo(onCubic([axis + 1, 9, 9, axis + 4], 1, time), 5);
  }
  const weights = dense('weights', 'straight', [0, 1], [0, 1, 1, 0], 2);
  expect(keyProperty(weights)).toBe('weight');
  expect(denseLines(kit, [weights], blobs)).toHaveLength(2);
});

test('a stretch keeps its ends, in no more places than asked for and one', () => {
  const points = Array.from({ length: 1000 }, (_, i): [number, number] => [i / 100, i]);
  const seen = within(points, 2, 7, 100);
  expect(seen.length).toBeLessThanOrEqual(101);
  expect([seen[0][0], seen[seen.length - 1][0]]).toEqual([2, 7]);
  expect(within(points, 20, 30, 100)).toEqual([]);
});
