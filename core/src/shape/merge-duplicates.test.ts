import { checkKit, newMaterial, callOf } from '../document';
import { chainKit, run } from '../tests/helpers';
import { duplicatesOf, mergeDuplicates } from './merge-duplicates';

function made() {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }, { id: 'c' }]);
  const blob = blobs.put(Uint8Array.of(1, 2, 3));
  const other = blobs.put(Uint8Array.of(4));
  const image = (id: string, of: string) =>
    (kit.images[id] = { id, name: id, mediaType: 'image/png', blob: of, bytes: 3, width: 1, height: 1 });
  image('one', blob);
  image('two', blob);
  image('three', other);
  const slot = (id: string) => ({ image: id, texCoord: 0, wrapS: 10497, wrapT: 10497 });
  kit.materials.wood = newMaterial({ id: 'wood', name: 'wood', baseColorTexture: slot('one') });
  kit.materials.planks = newMaterial({ id: 'planks', name: 'planks', baseColorTexture: slot('two') });
  kit.materials.iron = newMaterial({ id: 'iron', name: 'iron', baseColorTexture: slot('three') });
  ['wood', 'planks', 'iron'].forEach((id, i) => (kit.meshes[`mesh_${'abc'[i]}`].primitives[0].material = id));
  return { kit, blobs };
}

test('what is alike in all but its name becomes one, and what is not stays', () => {
  const { kit, blobs } = made();
  const next = checkKit(run(kit, blobs, callOf(mergeDuplicates, {})));
  expect(Object.keys(next.materials)).toEqual(['wood', 'iron']);
  expect(Object.keys(next.images)).toEqual(['one', 'three']);
  expect(['a', 'b', 'c'].map((id) => next.meshes[`mesh_${id}`].primitives[0].material)).toEqual(['wood', 'wood', 'iron']);
  expect(duplicatesOf(next)).toEqual({ images: new Map(), materials: new Map() });
});

test('another roughness is another material', () => {
  const { kit } = made();
  kit.materials.planks.roughness = 0.123;
  expect([...duplicatesOf(kit).materials]).toEqual([]);
  expect([...duplicatesOf(kit).images]).toEqual([['two', 'one']]);
});
