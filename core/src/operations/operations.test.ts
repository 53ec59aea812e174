import { checkKit, patchKit } from '../document';
import { loadSimplifier } from '../shape';
import { OPERATIONS, runCall } from './registry';
import { CALLS, made } from '../tests/calls';

beforeAll(loadSimplifier);

const NO_ARGUMENTS = ['shape.remove-empty', 'shape.merge-duplicates', 'shape.drop-unused-materials'];

test('every operation has a call here', () => {
  expect(Object.keys(CALLS).sort()).toEqual([...OPERATIONS.keys()].sort());
});

describe.each(Object.entries(CALLS))('%s', (operation, args) => {
  test('is named, leaves its kit alone, and is undone exactly', () => {
    const { kit, blobs } = made();
    const before = JSON.stringify(kit);
    const applied = runCall(kit, { operation, args }, blobs);
    expect(applied.title).toMatch(/^[A-Z]/);
    expect(applied.title).not.toMatch(/undefined/);
    expect(JSON.stringify(kit)).toBe(before);
    if (operation !== 'shape.drop-degenerates' && operation !== 'motion.keep-clips') expect(applied.kit).not.toEqual(kit);
    expect(() => checkKit(applied.kit)).not.toThrow();
    expect(patchKit(applied.kit, applied.inverse)).toEqual(kit);
    expect(patchKit(kit, applied.patches)).toEqual(applied.kit);
  });

  test('refuses arguments of another kind', () => {
    const { kit, blobs } = made();
    for (const wrong of [...(NO_ARGUMENTS.includes(operation) ? [] : [{}]), null, { ...(args as object), extra: 1 }])
      expect(() => runCall(kit, { operation, args: wrong }, blobs)).toThrow(/can't use|“value” is required|is required/);
  });
});

test('an operation of another version is refused by name', () => {
  const { kit, blobs } = made();
  expect(() => runCall(kit, { operation: 'shape.fold', args: {} }, blobs)).toThrow(/shape\.fold/);
});
