import fc from 'fast-check';
import { produce } from 'immer';
import { putArray, SIGNED_AXES, type MemoryBlobs, type Kit, type Space, type Vec3 } from '../document';
import { chainKit, extentOf, greatestDifference, TIMES, withMotion, worldVertices } from '../tests/helpers';
import { conformKit } from './conform';
import { applyMat3, quatFromTurn } from './linear';
import { CANONICAL, changeOfSpace, SpaceError } from './space';

function moving(): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([
    { id: 'a', translation: [0.4, 1, -2], rotation: quatFromTurn([10, 40, -25], 'xyz') },
    { id: 'b', translation: [1, 0.5, 0.2], rotation: quatFromTurn([-70, 15, 30], 'xyz') },
    { id: 'c', translation: [0, 2, 0], rotation: quatFromTurn([0, 0, 90], 'zxy'), turnOrder: 'zxy' },
  ]);
  let { kit } = made;
  kit = withMotion(kit, made.blobs, 'a', 'turn', 0, [0, 80, -20]);
  kit = withMotion(kit, made.blobs, 'a', 'turn', 1, [10, -40, 300], 'straight');
  kit = withMotion(kit, made.blobs, 'a', 'turn', 2, [0, 33], 'bounce');
  kit = withMotion(kit, made.blobs, 'b', 'offset', 1, [0, 1.5, 0.2]);
  kit = withMotion(kit, made.blobs, 'b', 'size', 2, [1, 2, 0.5]);
  kit = withMotion(kit, made.blobs, 'c', 'turn', 2, [0, 540], 'straight');
  const spin = [0, 0, 0, 1, ...quatFromTurn([30, -60, 10], 'xyz')];
  const times = putArray(made.blobs, Float32Array.from([0, 2]), 1);
  kit = produce(kit, (draft) => {
    draft.clips.clip.tracks.push({
      kind: 'samples',
      id: 's',
      part: 'b',
      property: 'rotation',
      interpolation: 'straight',
      times,
      values: putArray(made.blobs, Float32Array.from(spin), 4),
    });
  });
  return { kit, blobs: made.blobs };
}

const conformed = (kit: Kit, from: Space, to: Space, blobs: MemoryBlobs) =>
  produce(kit, (draft) => conformKit(draft as Kit, changeOfSpace(from, to), blobs));

const space = fc
  .record({
    metresPerUnit: fc.constantFrom(1, 0.01, 0.001, 0.0254, 3),
    up: fc.constantFrom(...SIGNED_AXES),
    forward: fc.constantFrom(...SIGNED_AXES),
    handedness: fc.constantFrom('right', 'left'),
  })
  .filter(({ up, forward }) => up[1] !== forward[1]) as fc.Arbitrary<Space>;

test('posed in any other space, every vertex is where s·C puts it, at rest and at all times', () => {
  const { kit, blobs } = moving();
  fc.assert(
    fc.property(space, (to) => {
      const change = changeOfSpace(CANONICAL, to);
      const there = conformed(kit, CANONICAL, to, blobs);
      for (const time of [null, ...TIMES]) {
        const before = time === null ? worldVertices(kit, blobs) : worldVertices(kit, blobs, 'clip', time);
        const after = time === null ? worldVertices(there, blobs) : worldVertices(there, blobs, 'clip', time);
        const expected: number[] = [];
        for (let i = 0; i < before.length; i += 3)
          expected.push(...applyMat3(change.basis, before.slice(i, i + 3)).map((value) => value * change.scale));
        expect(greatestDifference(after, expected)).toBeLessThanOrEqual(1e-5 * extentOf(expected));
      }
      for (const part of Object.values(there.parts)) part.scale.forEach((value) => expect(value).toBe(1));
    }),
    { numRuns: 40 },
  );
});

test('to Z up, X forward in centimetres and back: every vertex where it was', () => {
  const { kit, blobs } = moving();
  const there: Space = { metresPerUnit: 0.01, up: '+z', forward: '+x', handedness: 'right' };
  const back = conformed(conformed(kit, CANONICAL, there, blobs), there, CANONICAL, blobs);
  for (const time of TIMES) {
    const before = worldVertices(kit, blobs, 'clip', time);
    expect(greatestDifference(worldVertices(back, blobs, 'clip', time), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
  }
  expect(back.parts.c.turnOrder).toBe('zxy');
});

test('a skin deforms alike in the other space', () => {
  const { kit, blobs } = chainKit([
    { id: 'a', translation: [0, 1, 0] },
    { id: 'b', translation: [0, 1, 0.5], rotation: quatFromTurn([30, 0, 0], 'xyz') },
  ]);
  const mesh = kit.meshes.mesh_b;
  mesh.primitives[0].attributes.JOINTS_0 = putArray(blobs, Uint16Array.from([0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0]), 4);
  mesh.primitives[0].attributes.WEIGHTS_0 = putArray(blobs, Float32Array.from([0.5, 0.5, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]), 4);
  const binds = Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -1, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -2, -0.5, 1]);
  kit.skins.skin = { id: 'skin', name: 'skin', joints: ['a', 'b'], inverseBindMatrices: putArray(blobs, binds, 16) };
  kit.parts.b.skin = 'skin';
  const turned = withMotion(kit, blobs, 'b', 'turn', 0, [0, 90]);
  const to: Space = { metresPerUnit: 0.01, up: '+z', forward: '+y', handedness: 'left' };
  const change = changeOfSpace(CANONICAL, to);
  const there = conformed(turned, CANONICAL, to, blobs);
  const before = worldVertices(turned, blobs, 'clip', 1.3);
  const expected: number[] = [];
  for (let i = 0; i < before.length; i += 3)
    expected.push(...applyMat3(change.basis, before.slice(i, i + 3) as Vec3).map((value) => value * change.scale));
  expect(greatestDifference(worldVertices(there, blobs, 'clip', 1.3), expected)).toBeLessThanOrEqual(1e-5 * extentOf(expected));
});

test('forward along up is refused', () => {
  expect(() => changeOfSpace(CANONICAL, { ...CANONICAL, forward: '-y' })).toThrow(SpaceError);
});
