import { MemoryBlobs, putArray, type Primitive } from '../document';
import { Random } from '../oracles/random';
import { coverUv, newUvCells, overlapShare } from '.';

const blobs = new MemoryBlobs();

type Triangle = [number, number, number, number, number, number];

function primitiveOf(triangles: readonly Triangle[]): Primitive {
  const uvs = Float32Array.from(triangles.flat());
  return {
    material: null,
    attributes: {
      POSITION: putArray(blobs, new Float32Array((3 * uvs.length) / 2), 3),
      TEXCOORD_0: putArray(blobs, uvs, 2),
    },
    indices: putArray(
      blobs,
      Uint32Array.from({ length: uvs.length / 2 }, (_, i) => i),
      1,
    ),
  };
}

function told(triangles: readonly Triangle[]): number {
  const cells = newUvCells();
  coverUv(primitiveOf(triangles), blobs, cells);
  return overlapShare(cells);
}

/** Whether a point lies in a triangle, whichever way round that is: on one side of all three edges. */
function holds([ax, ay, bx, by, cx, cy]: Triangle, x: number, y: number): boolean {
  const side = (px: number, py: number, qx: number, qy: number) => (qx - px) * (y - py) - (qy - py) * (x - px);
  const sides = [side(ax, ay, bx, by), side(bx, by, cx, cy), side(cx, cy, ax, ay)];
  return sides.every((one) => one > 0) || sides.every((one) => one < 0);
}

/** The share of what is covered that is covered more than once, by a finer grid of points than the check's own. */
function byPoints(triangles: readonly Triangle[], across = 900): number {
  let [once, more] = [0, 0];
  for (let i = 0; i < across; i++)
    for (let j = 0; j < across; j++) {
      const hits = triangles.filter((one) => holds(one, (i + 0.37) / across, (j + 0.61) / across)).length;
      if (hits > 0) once++;
      if (hits > 1) more++;
    }
  return once === 0 ? 0 : more / once;
}

test.each(Array.from({ length: 12 }, (_, i) => i))('the share that lies on top of other UVs is what points say (%i)', (seed) => {
  const random = new Random(seed);
  const near = (at: number) => Math.min(1, Math.max(0, at + random.between(-0.25, 0.25)));
  const triangles = Array.from({ length: random.whole(2, 7) }, (): Triangle => {
    const [u, v] = [random.share(), random.share()];
    return [near(u), near(v), near(u), near(v), near(u), near(v)];
  });
  expect(Math.abs(told(triangles) - byPoints(triangles))).toBeLessThan(0.02);
});

test('two halves of a square that share an edge lie beside one another; a mirrored copy lies on top of all of it', () => {
  const square: Triangle[] = [
    [0.1, 0.1, 0.9, 0.1, 0.9, 0.9],
    [0.1, 0.1, 0.9, 0.9, 0.1, 0.9],
  ];
  expect(told(square)).toBe(0);
  const mirrored = square.map(([ax, ay, bx, by, cx, cy]): Triangle => [cx, cy, bx, by, ax, ay]);
  expect(told([...square, ...mirrored])).toBe(1);
  expect(told([...square, mirrored[0]])).toBeCloseTo(0.5, 1);
});

test('where nothing is covered nothing overlaps', () => {
  expect(told([])).toBe(0);
  expect(told([[0.2, 0.2, 0.2, 0.2, 0.2, 0.2]])).toBe(0);
});
