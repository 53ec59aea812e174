import fc from 'fast-check';
import { MemoryBlobs, newId, putArray, readArray, type Mesh } from '../document';
import { tailMesh } from '../tests/fixtures';
import { fitPoints } from './fit-points';
import { transformPoint, quatFromTurn, composeMatrix } from './linear';
import { SurfaceTree } from './nearest-surface';
import { transferWeights } from './transfer-weights';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const point = fc.tuple(number, number, number);

test('the tree finds no farther point than looking at every triangle finely', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 12, maxLength: 90 }), point, (points, p) => {
      const positions = points.flat();
      const indices = Array.from({ length: Math.floor(points.length / 3) * 3 }, (_, i) => i);
      const { squaredDistance, triangle, barycentric } = new SurfaceTree(positions, indices).nearest(...p);
      expect(barycentric.reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 9);
      const at = [0, 1, 2].map((axis) =>
        barycentric.reduce((sum, share, corner) => sum + share * positions[3 * indices[3 * triangle + corner] + axis], 0),
      );
      expect(Math.hypot(at[0] - p[0], at[1] - p[1], at[2] - p[2]) ** 2).toBeCloseTo(squaredDistance, 9);
      for (let t = 0; t < indices.length; t += 3) {
        for (let i = 0; i <= 8; i++) {
          for (let j = 0; i + j <= 8; j++) {
            const shares = [i / 8, j / 8, 1 - (i + j) / 8];
            const q = [0, 1, 2].map((axis) =>
              shares.reduce((sum, share, corner) => sum + share * positions[3 * indices[t + corner] + axis], 0),
            );
            expect((q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2 + (q[2] - p[2]) ** 2).toBeGreaterThanOrEqual(squaredDistance - 1e-9);
          }
        }
      }
    }),
    { numRuns: 40 },
  );
});

test('with a bound it finds the same, or nothing where all of it is further off', () => {
  fc.assert(
    fc.property(
      fc.array(point, { minLength: 12, maxLength: 90 }),
      point,
      fc.double({ min: 0, max: 8, noNaN: true }),
      (points, p, within) => {
        const tree = new SurfaceTree(
          points.flat(),
          Array.from({ length: Math.floor(points.length / 3) * 3 }, (_, i) => i),
        );
        const { squaredDistance } = tree.nearest(...p);
        const expected = squaredDistance < within * within ? squaredDistance : Infinity;
        expect(tree.nearest(...p, within).squaredDistance).toBe(expected);
      },
    ),
    { numRuns: 200 },
  );
});

test('points that were turned, sized and moved are found again; others are not', () => {
  fc.assert(
    fc.property(
      fc.array(point, { minLength: 4, maxLength: 30 }),
      point,
      fc.double({ min: 0.2, max: 4, noNaN: true }),
      point,
      (points, degrees, scale, move) => {
        const spread = Math.max(...points.map((p) => Math.hypot(p[0] - points[0][0], p[1] - points[0][1], p[2] - points[0][2])));
        fc.pre(spread > 0.1);
        const matrix = composeMatrix(
          move,
          quatFromTurn(
            degrees.map((value) => value * 36),
            'xyz',
          ),
          [scale, scale, scale],
        );
        const to = points.flatMap((p) => transformPoint(matrix, p));
        const found = fitPoints(points.flat(), to)!;
        expect(found).not.toBeNull();
        points.forEach((p, i) =>
          transformPoint(found, p).forEach((value, axis) => expect(Math.abs(value - to[3 * i + axis])).toBeLessThan(1e-3 * spread * scale)),
        );
      },
    ),
  );
  const corners = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1];
  expect(fitPoints(corners, corners.with(3, 1.01))).toBeNull();
  expect(fitPoints(corners, corners.slice(3))).toBeNull();
  expect(fitPoints(Array(12).fill(2), corners)).toBeNull();
});

test('weights go over by nearest surface: a finer tail gets what lies between the rings', () => {
  const blobs = new MemoryBlobs();
  const tail = tailMesh();
  const mesh = (positions: number[], skinned: boolean): Mesh => ({
    id: newId(),
    name: 'tail',
    primitives: [
      {
        material: null,
        attributes: {
          POSITION: putArray(blobs, Float32Array.from(positions), 3),
          ...(skinned
            ? {
                JOINTS_0: putArray(blobs, Uint16Array.from(tail.joints), 4),
                WEIGHTS_0: putArray(blobs, Float32Array.from(tail.weights), 4),
              }
            : {}),
        },
        indices: putArray(blobs, Uint32Array.from(tail.indices), 1),
      },
    ],
  });
  const heights = [0, 0.25, 0.6, 1.5];
  const finer = heights.flatMap((y) => [0.1, y, 0.1, -0.1, y, 0.1, -0.1, y, -0.1, 0.1, y, -0.1]);
  const { attributes } = transferWeights(mesh(tail.positions, true), mesh(finer, false), blobs).primitives[0];
  const [joints, weights] = [readArray(blobs, attributes.JOINTS_0), readArray(blobs, attributes.WEIGHTS_0)];
  const share = (vertex: number, joint: number) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + (joints[4 * vertex + k] === joint ? weights[4 * vertex + k] : 0), 0);
  heights.forEach((y, ring) => {
    for (let side = 0; side < 4; side++) {
      expect(share(4 * ring + side, 1)).toBeCloseTo(y / 1.5, 5);
      expect(share(4 * ring + side, 0)).toBeCloseTo(1 - y / 1.5, 5);
    }
  });
});
