import { strToU8 } from 'fflate';
import { produce } from 'immer';
import { blobsOf } from './kit-blobs';
import { hashBytes, MemoryBlobs, MissingBlobError, putArray, readArray } from './blobs';
import { checkKit, KitFormatError, KitSchemaError } from './check-kit';
import { chainKit, withMotion } from '../tests/helpers';
import { callOf } from '../document';
import { runCall } from '../operations';
import { patchKit, type Kit } from '.';
import { renameParts } from '../shape';

const made = () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }]);
  return { kit: withMotion(kit, blobs, 'b', 'turn', 0, [0, 90]), blobs };
};

test('a whole kit passes, and survives JSON', () => {
  const { kit } = made();
  expect(checkKit(JSON.parse(JSON.stringify(kit)))).toEqual(kit);
});

test('another format or version is refused by name', () => {
  expect(() => checkKit({ ...made().kit, format: 'itchkit.kit/2' })).toThrow(KitFormatError);
  expect(() => checkKit({ ...made().kit, format: 'itchkit.kit/2' })).toThrow(/itchkit\.kit\/2/);
  expect(() => checkKit(null)).toThrow(KitFormatError);
});

test.each<[string, (kit: Kit) => void]>([
  ['a parent that is not there', (kit) => void (kit.parts.b.parent = 'nobody')],
  ['a part below itself', (kit) => void (kit.parts.a.parent = 'b')],
  ['a mesh that is not there', (kit) => void (kit.parts.a.mesh = 'none')],
  ['a track without its part', (kit) => void (kit.clips.clip.tracks[0].part = 'none')],
  ['a number that is none', (kit) => void (kit.parts.a.translation[1] = NaN)],
  ['a field that nobody knows', (kit) => void Object.assign(kit.parts.a, { colour: 'red' })],
  ['a parent named like a built-in', (kit) => void (kit.parts.b.parent = 'constructor')],
])('%s is refused', (_, spoil) => {
  expect(() => checkKit(produce(made().kit, (draft) => spoil(draft as Kit)))).toThrow(KitSchemaError);
});

test('undo is exact, and a failed operation changes nothing', () => {
  const { kit, blobs } = made();
  const applied = runCall(kit, callOf(renameParts, { names: { a: 'x', b: 'y' } }), blobs);
  expect(patchKit(applied.kit, applied.inverse)).toEqual(kit);
  expect(patchKit(kit, applied.patches)).toEqual(applied.kit);
  expect(() => runCall(kit, callOf(renameParts, { names: { a: 'x', nobody: 'y' } }), blobs)).toThrow(/no longer in the kit/);
  expect(kit.parts.a.name).toBe('a');
});

test('blobs are named by SHA-256, kept once, and listed by the kit that needs them', () => {
  expect(hashBytes(strToU8('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  const blobs = new MemoryBlobs();
  const one = putArray(blobs, Float32Array.from([1, 2, 3]), 3);
  expect(putArray(blobs, Float32Array.from([1, 2, 3]), 3)).toEqual(one);
  expect([...blobs.entries()]).toHaveLength(1);
  expect([...readArray(blobs, one)]).toEqual([1, 2, 3]);
  expect(() => blobs.get('0'.repeat(64))).toThrow(MissingBlobError);
  const { kit, blobs: store } = made();
  for (const sha of blobsOf(kit)) expect(store.has(sha)).toBe(true);
});
