import { MemoryBlobs, putArray, type Mesh } from '../document';
import { uvLayout } from './uv-layout';

const blobs = new MemoryBlobs();

function meshOf(uvs: number[], indices: number[]): Mesh {
  const attributes = {
    POSITION: putArray(blobs, new Float32Array((uvs.length / 2) * 3), 3),
    TEXCOORD_0: putArray(blobs, Float32Array.from(uvs), 2),
  };
  return { id: 'm', name: 'm', primitives: [{ attributes, indices: putArray(blobs, Uint32Array.from(indices), 1), material: null }] };
}

const SQUARE = [0, 1, 1, 1, 1, 0, 0, 0];
const layout = uvLayout(meshOf(SQUARE, [0, 1, 2, 0, 2, 3]), blobs);

test('a layout is the same whatever the order of triangles, corners and vertices', () => {
  expect(layout).toMatch(/^[0-9a-f]{16}$/);
  expect(uvLayout(meshOf(SQUARE, [2, 3, 0, 1, 2, 0]), blobs)).toBe(layout);
  expect(uvLayout(meshOf([0, 0, 1, 0, 1, 1, 0, 1], [3, 2, 1, 3, 1, 0]), blobs)).toBe(layout);
  expect(
    uvLayout(
      meshOf(
        SQUARE.map((value) => value + 1e-6),
        [0, 1, 2, 0, 2, 3],
      ),
      blobs,
    ),
  ).toBe(layout);
});

test('a moved corner, a flipped triangle or another diagonal is another layout; no UVs is none', () => {
  const others = [
    meshOf([0, 1, 1, 1, 1, 0, 0, 0.001], [0, 1, 2, 0, 2, 3]),
    meshOf(SQUARE, [0, 2, 1, 0, 2, 3]),
    meshOf(SQUARE, [0, 1, 3, 1, 2, 3]),
  ].map((mesh) => uvLayout(mesh, blobs));
  expect(new Set([layout, ...others]).size).toBe(4);
  const bare = meshOf(SQUARE, [0, 1, 2]);
  delete bare.primitives[0].attributes.TEXCOORD_0;
  expect(uvLayout(bare, blobs)).toBeNull();
});
