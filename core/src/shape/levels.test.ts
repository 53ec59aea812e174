import { WebIO } from '@gltf-transform/core';
import { checkKit, callOf, type Kit } from '../document';
import { atLevel, kitCounts } from '../geometry';
import { packKit, unzipFiles } from '../ship';
import { chainKit, putSphere, run } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { splitFaces } from './split-parts';
import { flipFaces } from './edit-surfaces';
import { dropLevels, makeLevels } from './levels';
import { movePivot } from './move-pivot';
import { loadSimplifier } from './simplify-primitive';

beforeAll(loadSimplifier);

function made() {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [3, 0, 0] }]);
  putSphere(kit, blobs, 'ball', 30);
  kit.parts.a.mesh = kit.parts.b.mesh = 'ball';
  const levels = SHIPPED.emberfold.levels!.map(({ name, share }) => ({ name, share }));
  return { plain: kit, kit: run(kit, blobs, callOf(makeLevels, { parts: ['a', 'b'], levels })), blobs, levels };
}

const trianglesAt = (kit: Kit, level: string) => kitCounts(atLevel(kit, level)).triangles;

test('levels hold their shares, the kit stays as it was, and the document with them is whole', () => {
  const { plain, kit, levels } = made();
  expect(kitCounts(kit)).toEqual(kitCounts(plain));
  for (const { name, share } of levels) {
    expect(trianglesAt(kit, name)).toBeLessThanOrEqual(share * kitCounts(plain).triangles + 2);
    expect(trianglesAt(kit, name)).toBeGreaterThan(0.8 * share * kitCounts(plain).triangles);
  }
  expect(kit.meshes.ball.levels!.map(({ errorMm }) => errorMm > 0)).toEqual([true, true]);
  expect(() => checkKit(JSON.parse(JSON.stringify(kit)))).not.toThrow();
});

test('they move with a pivot; they go when the mesh becomes another, or by hand', () => {
  const { kit, blobs } = made();
  const moved = run(kit, blobs, callOf(movePivot, { part: 'a', to: [1, 0, 0] }));
  expect(moved.meshes[moved.parts.a.mesh!].levels).toHaveLength(2);
  expect(moved.meshes[moved.parts.a.mesh!].levels![0].primitives[0].attributes.POSITION).not.toEqual(
    kit.meshes.ball.levels![0].primitives[0].attributes.POSITION,
  );
  const split = run(kit, blobs, callOf(splitFaces, { part: 'a', faces: [[0, 9]], id: 'c', name: 'c', place: 'below', pivot: 'keep' }));
  for (const id of ['a', 'c']) expect(split.meshes[split.parts[id].mesh!].levels).toBeUndefined();
  const turned = run(kit, blobs, callOf(flipFaces, { parts: ['a'] }));
  expect(turned.meshes[turned.parts.a.mesh!].levels).toBeUndefined();
  expect(turned.meshes[turned.parts.b.mesh!].levels).toHaveLength(2);
  expect(run(kit, blobs, callOf(dropLevels, { parts: ['a', 'b'] })).meshes.ball.levels).toBeUndefined();
});

test('the package has a file a level, with its triangles', async () => {
  const { kit, blobs } = made();
  const { bytes } = await packKit(kit, SHIPPED.emberfold, blobs, []);
  const files = unzipFiles(bytes);
  for (const { name } of SHIPPED.emberfold.levels!) {
    const document = await new WebIO().readBinary(files[`bodies/test-${name}.glb`]);
    const drawn = document
      .getRoot()
      .listNodes()
      .reduce(
        (sum, node) =>
          sum +
          (node
            .getMesh()
            ?.listPrimitives()
            .reduce((all, primitive) => all + primitive.getIndices()!.getCount() / 3, 0) ?? 0),
        0,
      );
    expect(drawn).toBe(trianglesAt(kit, name));
  }
});
