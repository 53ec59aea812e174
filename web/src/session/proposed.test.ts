import { callOf, emptyKit, MemoryBlobs, newPart, type Kit } from '@itchkit/core/document';
import { renameParts, removeEmpty } from '@itchkit/core/shape';
import { proposed } from './proposed';

const kit: Kit = { ...emptyKit('tried'), parts: { a: newPart({ id: 'a', name: 'a' }), b: newPart({ id: 'b', name: 'b' }) } };

test('what is tried says which counts would be other, and leaves the kit as it is', () => {
  const before = JSON.stringify(kit);
  expect(proposed(kit, [callOf(removeEmpty, {})], new MemoryBlobs()).says).toMatch(/^parts 2 → 0$/);
  expect(proposed(kit, [callOf(renameParts, { names: { a: 'mast' } })], new MemoryBlobs()).says).toBe(
    '1 part changed (name), every count the same',
  );
  expect(JSON.stringify(kit)).toBe(before);
});

test('what can’t be done says why, and the kit stands as it is', () => {
  const tried = proposed(kit, [callOf(renameParts, { names: { nobody: 'x' } })], new MemoryBlobs());
  expect(tried.kit).toBe(kit);
  expect(tried.says).toBe('That part is no longer in the kit. Choose another one in Parts.');
});
