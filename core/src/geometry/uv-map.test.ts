import { emptyKit, MemoryBlobs, putArray } from '../document';
import { putSphere } from '../tests/helpers';
import { uvMap } from './uv-map';

function ball(edit: (uvs: Float32Array) => Float32Array = (uvs) => uvs) {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Ball');
  putSphere(kit, blobs, 'ball', 8);
  const { attributes } = kit.meshes.ball.primitives[0];
  const old = blobs.get(attributes.TEXCOORD_0.blob);
  attributes.TEXCOORD_0 = putArray(blobs, edit(new Float32Array(old.slice().buffer)), 2);
  return { mesh: kit.meshes.ball, blobs };
}

test('a ball unrolled is one island that covers the square once', () => {
  const { mesh, blobs } = ball();
  expect(uvMap(mesh, blobs)).toMatchObject({ islands: 1, overlap: 0 });
  expect(uvMap(mesh, blobs)!.outside).not.toContain(1);
  expect(uvMap(mesh, blobs, 1)).toBeNull();
});

test('shifted UVs lie outside; folded ones on top of one another', () => {
  const shifted = ball((uvs) => uvs.map((value, i) => (i % 2 === 0 ? value + 0.5 : value)));
  expect([...uvMap(shifted.mesh, shifted.blobs)!.outside].filter(Boolean).length).toBeGreaterThan(40);
  const folded = ball((uvs) => uvs.map((value, i) => (i % 2 === 0 ? Math.min(value, 1 - value) : value)));
  expect(uvMap(folded.mesh, folded.blobs)!.overlap).toBeGreaterThan(0.8);
});
