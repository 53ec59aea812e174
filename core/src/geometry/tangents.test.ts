import { generateTangents } from 'mikktspace';
import { MemoryBlobs, putArray, readArray, emptyKit, type Kit, type Primitive } from '../document';
import { putSphere } from '../tests/helpers';
import { computeTangents } from './tangents';

/** The reference implementation, by corners, with glTF's sign. */
function reference(primitive: Primitive, blobs: MemoryBlobs): Float32Array {
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  const spread = (semantic: string) => {
    const { size } = primitive.attributes[semantic];
    const rows = readArray<Float32Array>(blobs, primitive.attributes[semantic]);
    return Float32Array.from([...indices].flatMap((v) => [...rows.subarray(size * v, size * (v + 1))]));
  };
  return generateTangents(spread('POSITION'), spread('NORMAL'), spread('TEXCOORD_0')).map((value, i) => (i % 4 === 3 ? -value : value));
}

function expectAlike(primitive: Primitive, blobs: MemoryBlobs): void {
  const made = computeTangents(primitive, 0, blobs);
  const indices = readArray<Uint32Array>(blobs, made.indices);
  const own = readArray<Float32Array>(blobs, made.attributes.TANGENT);
  const wanted = reference(primitive, blobs);
  let worst = 0;
  indices.forEach((v, c) => {
    for (let k = 0; k < 4; k++) worst = Math.max(worst, Math.abs(own[4 * v + k] - wanted[4 * c + k]));
  });
  expect(worst).toBeLessThan(1e-4);
}

function ball(
  segments: number,
  uv: (u: number, v: number) => [number, number] = (u, v) => [u, v],
): { primitive: Primitive; blobs: MemoryBlobs } {
  const blobs = new MemoryBlobs();
  const kit: Kit = emptyKit('Ball');
  putSphere(kit, blobs, 'ball', segments);
  const [primitive] = kit.meshes.ball.primitives;
  const old = readArray<Float32Array>(blobs, primitive.attributes.TEXCOORD_0);
  primitive.attributes.TEXCOORD_0 = putArray(
    blobs,
    Float32Array.from({ length: old.length }, (_, i) => uv(old[i - (i % 2)], old[i - (i % 2) + 1])[i % 2]),
    2,
  );
  return { primitive, blobs };
}

test.each<[string, (u: number, v: number) => [number, number]]>([
  ['as they are', (u, v) => [u, v]],
  ['mirrored in the middle', (u, v) => [u < 0.5 ? u : 1 - u, v]],
  ['skewed', (u, v) => [u + 0.4 * v * v, v - 0.3 * u]],
  ['without area here and there', (u, v) => [u < 0.3 ? 0.2 : u, v]],
])('tangents of a ball with UVs %s are those of the reference implementation', (_, uv) => {
  const { primitive, blobs } = ball(12, uv);
  expectAlike(primitive, blobs);
});

test('triangles without area borrow, and nothing is said where there are no UVs', () => {
  const { primitive, blobs } = ball(6);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  expectAlike({ ...primitive, indices: putArray(blobs, Uint32Array.from([...indices, 3, 3, 9]), 1) }, blobs);
  const bare = { ...primitive, attributes: { POSITION: primitive.attributes.POSITION } };
  expect(computeTangents(bare, 0, blobs)).toBe(bare);
});
