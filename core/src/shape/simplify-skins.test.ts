import { callOf, newPart, putArray, readArray, type Kit, type MemoryBlobs } from '../document';
import { flattenParts, Poser, posedVertices } from '../geometry';
import { chainKit, putSphere, run } from '../tests/helpers';
import { loadSimplifier, simplifyParts } from '.';

beforeAll(() => loadSimplifier());

/** A ball of 2 m held by two joints, the upper one the more the higher it is. */
function held(): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([
    { id: 'low', translation: [0, -1, 0] },
    { id: 'high', translation: [0, 1, 0] },
  ]);
  putSphere(kit, blobs, 'ball', 48);
  const [primitive] = kit.meshes.ball.primitives;
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const shares = Array.from({ length: positions.length / 3 }, (_, v) => Math.min(1, Math.max(0, (positions[3 * v + 1] + 1) / 2)));
  primitive.attributes.JOINTS_0 = putArray(blobs, Uint16Array.from(shares.flatMap(() => [0, 1, 0, 0])), 4);
  primitive.attributes.WEIGHTS_0 = putArray(blobs, Float32Array.from(shares.flatMap((share) => [1 - share, share, 0, 0])), 4);
  const bind = (y: number) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -y, 0, 1];
  kit.skins.skin = {
    id: 'skin',
    name: 'skin',
    joints: ['low', 'high'],
    inverseBindMatrices: putArray(blobs, Float32Array.from([...bind(-1), ...bind(0)]), 16),
  };
  kit.parts.ball = newPart({ id: 'ball', name: 'ball', mesh: 'ball', skin: 'skin' });
  return { kit, blobs };
}

/** Vertices of the ball with the upper joint turned about x, degrees. */
function bent(kit: Kit, blobs: MemoryBlobs, degrees: number): Float64Array {
  const poser = new Poser(flattenParts(kit));
  poser.pose.turn[3 * poser.flat.indexOf.get('high')!] = degrees;
  poser.update();
  return posedVertices(kit, blobs, kit.parts.ball, (id) => poser.worldOf(id));
}

/** How far the vertices of one list are from the nearest of the other, at most. */
function beyond(from: Float64Array, to: Float64Array): number {
  let most = 0;
  for (let a = 0; a < from.length; a += 3) {
    let least = Infinity;
    for (let b = 0; b < to.length; b += 3)
      least = Math.min(least, Math.hypot(from[a] - to[b], from[a + 1] - to[b + 1], from[a + 2] - to[b + 2]));
    most = Math.max(most, least);
  }
  return most;
}

test.each([0, 35, -70])('a simplified body bends as the whole one does: every vertex that is left is where it was (%s°)', (degrees) => {
  const { kit, blobs } = held();
  const less = run(kit, blobs, callOf(simplifyParts, { parts: ['ball'], goal: { share: 0.25 } }));
  const [whole, left] = [bent(kit, blobs, degrees), bent(less, blobs, degrees)];
  expect(left.length).toBeLessThan(0.5 * whole.length);
  expect(beyond(left, whole)).toBeLessThan(1e-5);
});

test('weights of what is left add up to 1 and name joints of the skin', () => {
  const { kit, blobs } = held();
  const less = run(kit, blobs, callOf(simplifyParts, { parts: ['ball'], goal: { triangles: 300 } }));
  const [{ attributes }] = less.meshes[less.parts.ball.mesh!].primitives;
  const weights = readArray<Float32Array>(blobs, attributes.WEIGHTS_0);
  const joints = readArray<Uint16Array>(blobs, attributes.JOINTS_0);
  expect(attributes.WEIGHTS_0.count).toBe(attributes.POSITION.count);
  for (let v = 0; v < weights.length / 4; v++) {
    expect(weights[4 * v] + weights[4 * v + 1] + weights[4 * v + 2] + weights[4 * v + 3]).toBeCloseTo(1, 5);
    for (let k = 0; k < 4; k++) expect(joints[4 * v + k]).toBeLessThan(2);
  }
});
