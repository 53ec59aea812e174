import { MemoryBlobs, putArray, readArray, type Primitive } from '../document';
import { badNormals, degenerateTriangles, dropTriangles, recomputeNormals } from './surfaces';

function primitive(blobs: MemoryBlobs, positions: number[], indices: number[]): Primitive {
  return {
    material: null,
    attributes: { POSITION: putArray(blobs, Float32Array.from(positions), 3) },
    indices: putArray(blobs, Uint32Array.from(indices), 1),
  };
}

const CUBE = [-1, -1, -1, 1, -1, -1, 1, 1, -1, -1, 1, -1, -1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1];
const FACES = [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 2, 3, 7, 2, 7, 6, 1, 2, 6, 1, 6, 5, 0, 4, 7, 0, 7, 3];

test('a cube shaded sharp has 24 vertices with the six normals of its faces', () => {
  const blobs = new MemoryBlobs();
  const sharp = recomputeNormals(primitive(blobs, CUBE, FACES), 40, blobs);
  expect(sharp.attributes.POSITION.count).toBe(24);
  expect(badNormals(sharp, blobs)).toBe(0);
  const normals = readArray<Float32Array>(blobs, sharp.attributes.NORMAL);
  for (let i = 0; i < normals.length; i += 3) expect(Math.max(...normals.subarray(i, i + 3).map(Math.abs))).toBeCloseTo(1, 6);
});

test('a cube shaded smooth has 8 vertices whose normals lie on the diagonals', () => {
  const blobs = new MemoryBlobs();
  const smooth = recomputeNormals(primitive(blobs, CUBE, FACES), 180, blobs);
  expect(smooth.attributes.POSITION.count).toBe(8);
  const p = readArray<Float32Array>(blobs, smooth.attributes.POSITION);
  readArray<Float32Array>(blobs, smooth.attributes.NORMAL).forEach((value, i) => expect(value).toBeCloseTo(p[i] / Math.sqrt(3), 5));
});

test('triangles without area are found whatever their size, and dropped alone', () => {
  const blobs = new MemoryBlobs();
  const tiny = 1e-5;
  const mixed = primitive(blobs, [0, 0, 0, tiny, 0, 0, 0, tiny, 0, 2 * tiny, 0, 0], [0, 1, 2, 0, 1, 1, 0, 1, 3, 1, 0, 2]);
  expect(degenerateTriangles(mixed, blobs)).toEqual([1, 2]);
  const rest = dropTriangles(mixed, [1, 2], blobs);
  expect([...readArray(blobs, rest.indices)]).toEqual([0, 1, 2, 1, 0, 2]);
});
