import fc from 'fast-check';
import { newMaterial, putArray, readArray, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { flattenParts, posedVertices, Poser, quatFromTurn, wholeMesh } from '../geometry';
import { clipTime, compileClip, sampleClip } from '../motion';
import { runCall } from '../operations';
import { chainKit, putSphere, TIMES, withMotion } from '../tests/helpers';
import { loadSimplifier } from './simplify-primitive';

beforeAll(loadSimplifier);

/** Operations that promise that nothing drawn moves, at rest or at any time. */
const STILL: [operation: string, args: unknown][] = [
  ['shape.reparent', { parts: ['d'], parent: 'c', keep: 'world' }],
  ['shape.insert-parent', { parts: ['b'], name: 'carrier', at: [0, 1, 0] }],
  ['shape.pivot-to-anchor', { parts: ['d'], anchor: [1, -1, 0] }],
  ['shape.move-pivot', { part: 'd', to: [0.2, -0.3, 0.7] }],
  ['shape.pivot-to-twin', { from: 'a', to: 'd', axis: 0, at: 0.4 }],
  ['shape.set-hinge-axis', { part: 'd', axis: 2, from: [1, 0, 0], to: [2, 1, 3] }],
  ['shape.apply-rotation', { parts: ['d'] }],
  ['shape.apply-scale', { parts: ['a'] }],
  ['shape.split-faces', { part: 'd', faces: [[3, 20]], name: 'cut', place: 'below', pivot: 'middle' }],
  ['shape.split-faces', { part: 'b', faces: [[3, 20]], name: 'cut', place: 'beside', pivot: 'keep' }],
  ['shape.split-material', { part: 'd', place: 'below', pivot: 'bottom' }],
  ['shape.recompute-normals', { parts: ['a', 'b', 'c', 'd'], angleDegrees: 30 }],
  ['shape.flip-faces', { parts: ['b', 'd'] }],
  ['shape.turn-windings', { parts: ['d'] }],
  ['shape.unify-windings', { parts: ['a', 'b', 'c', 'd'], angleDegrees: 30 }],
  ['shape.weld', { parts: ['a', 'b', 'c', 'd'], distanceMm: 0 }],
  ['shape.drop-unused-vertices', { parts: ['a', 'b', 'c', 'd'] }],
  ['shape.drop-degenerates', { parts: ['a', 'b', 'c', 'd'] }],
  ['shape.tangents', { parts: ['d'] }],
  ['shape.make-levels', { parts: ['b', 'd'], levels: [{ name: 'far', share: 0.4 }] }],
  ['shape.drop-levels', { parts: ['b', 'd'] }],
  ['shape.assign-material', { parts: ['b'], material: 'paint' }],
  ['shape.merge-duplicates', {}],
  ['shape.drop-unused-materials', {}],
  ['shape.remove-empty', {}],
  ['shape.rename', { names: { a: 'x' } }],
  ['shape.set-role', { parts: ['b'], role: 'driven' }],
];

function made(turn: Vec3, scale: number): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([
    { id: 'a', rotation: quatFromTurn(turn, 'xyz'), scale: [scale, scale, scale] },
    { id: 'b', translation: [0, 1, 0] },
    { id: 'c', translation: [0.5, 0, 0.2] },
    { id: 'd', translation: [0, 0.4, 1], rotation: quatFromTurn([20, -turn[0], 5], 'xyz') },
  ]);
  kit.parts.d.parent = 'b';
  putSphere(kit, blobs, 'ball', 8);
  putSphere(kit, blobs, 'half', 8);
  kit.parts.b.mesh = kit.parts.d.mesh = 'ball';
  kit.materials.bumpy = newMaterial({
    id: 'bumpy',
    name: 'bumpy',
    normalTexture: { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 },
  });
  kit.images.img = { id: 'img', name: 'img', mediaType: 'image/png', blob: blobs.put(new Uint8Array(3)), bytes: 3, width: 4, height: 4 };
  kit.materials.paint = newMaterial({ id: 'paint', name: 'paint' });
  const [whole] = kit.meshes.ball.primitives;
  const indices = readArray<Uint32Array>(blobs, whole.indices);
  kit.meshes.ball.primitives = [
    { ...whole, material: 'bumpy', indices: putArray(blobs, indices.slice(0, 150), 1) },
    { ...whole, material: 'paint', indices: putArray(blobs, indices.slice(150), 1) },
  ];
  let moving = withMotion(kit, blobs, 'a', 'offset', 1, [0, 0.7, 0]);
  moving = withMotion(moving, blobs, 'b', 'turn', 1, [0, 80, -20]);
  return { kit: moving, blobs };
}

/** Sum over all drawn triangles of a figure of where each stands: the same, whatever the parts and vertices are. */
function drawn(kit: Kit, blobs: MemoryBlobs, time: number | null): number[] {
  const poser = new Poser(flattenParts(kit));
  if (time !== null) sampleClip(compileClip(kit.clips.clip, poser.flat, blobs), clipTime(kit.clips.clip.loop, 2, time)!, poser.pose);
  poser.update();
  const sums = new Array<number>(10).fill(0);
  for (const part of Object.values(kit.parts)) {
    if (part.mesh === null) continue;
    const at = posedVertices(kit, blobs, part, (id) => poser.worldOf(id));
    const { indices } = wholeMesh(kit.meshes[part.mesh], blobs);
    for (let t = 0; t < indices.length; t += 3) {
      const middle = [0, 1, 2].map(
        (axis) => (at[3 * indices[t] + axis] + at[3 * indices[t + 1] + axis] + at[3 * indices[t + 2] + axis]) / 3,
      );
      sums[0]++;
      middle.forEach((value, axis) => {
        sums[1 + axis] += value;
        sums[4 + axis] += value * value;
        sums[7 + axis] += value * middle[(axis + 1) % 3];
      });
    }
  }
  return sums;
}

test.each(STILL)('%s moves nothing that is drawn, at rest or at any time', (operation, args) => {
  const angle = fc.double({ min: -180, max: 180, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(angle, angle, angle), fc.double({ min: 0.3, max: 3, noNaN: true }), (turn, scale) => {
      const { kit, blobs } = made(turn, scale);
      const next = runCall(kit, { operation, args }, blobs).kit;
      for (const time of [null, ...TIMES]) {
        const before = drawn(kit, blobs, time);
        drawn(next, blobs, time).forEach((value, i) =>
          expect(Math.abs(value - before[i])).toBeLessThanOrEqual(1e-5 * before[0] * Math.max(1, scale * scale) * 10),
        );
      }
    }),
    { numRuns: 12 },
  );
});
