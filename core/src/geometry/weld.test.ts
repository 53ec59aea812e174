import fc from 'fast-check';
import { MemoryBlobs, putArray, readArray, type Primitive } from '../document';
import { weldPrimitive } from './weld';

const blobs = new MemoryBlobs();

/** Loose triangles over points of a coarse grid, moved by a little. */
const soup = fc
  .array(
    fc.record({
      at: fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })),
      by: fc.double({ min: -0.004, max: 0.004, noNaN: true }),
    }),
    { minLength: 9, maxLength: 60 },
  )
  .map((points) => points.slice(0, points.length - (points.length % 3)));

function primitiveOf(points: { at: number[]; by: number }[], uvs?: number[]): Primitive {
  const positions = Float32Array.from(points.flatMap(({ at, by }) => [0.01 * at[0] + by, 0.01 * at[1], 0.01 * at[2]]));
  return {
    material: null,
    attributes: {
      POSITION: putArray(blobs, positions, 3),
      ...(uvs ? { TEXCOORD_0: putArray(blobs, Float32Array.from(uvs), 2) } : {}),
    },
    indices: putArray(
      blobs,
      Uint32Array.from(points, (_, i) => i),
      1,
    ),
  };
}

/** Of a triangle of three vertices in their order. */
function areaOf(p: Float32Array, t: number): number {
  const [u, v] = [1, 2].map((c) => [0, 1, 2].map((axis) => p[9 * t + 3 * c + axis] - p[9 * t + axis]));
  return Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
}

test.each([0, 0.0015, 0.006, 0.02])('within %s m each corner stands where looking at all vertices puts it', (distance) => {
  fc.assert(
    fc.property(soup, (points) => {
      const before = primitiveOf(points);
      const after = weldPrimitive(before, distance, blobs);
      const from = readArray<Float32Array>(blobs, before.attributes.POSITION);
      const to = readArray<Float32Array>(blobs, after.attributes.POSITION);
      const corners = readArray<Uint32Array>(blobs, after.indices);
      const apart = (p: Float32Array, a: number, q: Float32Array, b: number) =>
        Math.hypot(...[0, 1, 2].map((axis) => p[3 * a + axis] - q[3 * b + axis]));
      // Each vertex that is left stood there before, and none has another within the distance: all pairs are looked at.
      for (let v = 0; v < to.length / 3; v++) {
        expect(Array.from({ length: from.length / 3 }, (_, w) => apart(to, v, from, w)).includes(0)).toBe(true);
        for (let w = 0; w < v; w++) expect(apart(to, v, to, w)).toBeGreaterThan(distance);
      }
      // Corners go no further than the distance; triangles that are left keep their order.
      const whole = Array.from({ length: points.length / 3 }, (_, t) => t).filter((t) => {
        const near = [0, 1, 2].map((c) => 3 * t + c);
        return near.every((a, n) => near.every((b, m) => n === m || apart(from, a, from, b) > 3 * distance));
      });
      const centre = (p: Float32Array, list: ArrayLike<number>, t: number) =>
        [0, 1, 2].map((axis) => (p[3 * list[3 * t] + axis] + p[3 * list[3 * t + 1] + axis] + p[3 * list[3 * t + 2] + axis]) / 3);
      const own = Uint32Array.from(points, (_, i) => i);
      const left = Array.from({ length: corners.length / 3 }, (_, t) => centre(to, corners, t));
      for (const t of whole) {
        const was = centre(from, own, t);
        if (areaOf(from, t) < 1e-5) continue;
        expect(left.some((now) => Math.hypot(...now.map((value, axis) => value - was[axis])) <= distance + 1e-7)).toBe(true);
      }
    }),
    { numRuns: 40 },
  );
});

test('what differs in its picture stays apart, however near it is', () => {
  const points = [0, 1, 2, 0, 2, 3].map((n) => ({ at: [n % 2, n >> 1, n], by: 0 }));
  const alike = weldPrimitive(primitiveOf(points, [0, 0, 1, 0, 0, 1, 0, 0, 0, 1, 1, 1]), 0.001, blobs);
  expect(alike.attributes.POSITION.count).toBe(4);
  const seam = weldPrimitive(primitiveOf(points, [0, 0, 1, 0, 0, 1, 0.5, 0, 0, 1, 1, 1]), 0.001, blobs);
  expect(seam.attributes.POSITION.count).toBe(5);
});

test('triangles that lose their area go, and nothing welded is the very same primitive', () => {
  const sliver = [0, 0, 1].map((n) => ({ at: [n, 0, 0], by: 0 }));
  const sound = [0, 1, 2].map((n) => ({ at: [n, n * n, 0], by: 0 }));
  const welded = weldPrimitive(primitiveOf([...sliver, ...sound]), 0.001, blobs);
  expect(welded.indices.count).toBe(3);
  const apart = primitiveOf(sound);
  expect(weldPrimitive(apart, 0.001, blobs)).toBe(apart);
});
