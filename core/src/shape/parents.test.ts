import { callOf, newPart } from '../document';
import { quatFromTurn, restWorlds } from '../geometry';
import { chainKit, greatestDifference, run, withMotion, worldVertices } from '../tests/helpers';
import { dissolveParents, insertParent } from './parents';

const made = () => {
  const { kit, blobs } = chainKit([
    { id: 'a', rotation: quatFromTurn([10, 40, 0], 'xyz') },
    { id: 'b', translation: [1, 2, 0], rotation: quatFromTurn([0, 0, 70], 'xyz') },
    { id: 'c', translation: [0, 0.5, 1] },
  ]);
  kit.parts.d = newPart({ id: 'd', name: 'd', parent: 'a', order: 1, mesh: 'mesh_b' });
  return { kit, blobs };
};

test('a parent inserted stands where it was asked to, above all of them, and moves nothing', () => {
  const { kit, blobs } = made();
  const next = run(kit, blobs, callOf(insertParent, { id: 'up', parts: ['c', 'd'], name: 'carrier', at: [3, 1, -2] }));
  expect(next.parts.up.parent).toBe('a');
  expect([next.parts.c.parent, next.parts.d.parent]).toEqual(['up', 'up']);
  const world = restWorlds(next).get('up')!;
  [3, 1, -2].forEach((value, axis) => expect(world[12 + axis]).toBeCloseTo(value, 9));
  expect(
    greatestDifference(
      worldVertices({ ...next, parts: { a: next.parts.a, b: next.parts.b, c: next.parts.c, d: next.parts.d, up: next.parts.up } }, blobs),
      worldVertices(kit, blobs),
    ),
  ).toBeLessThan(1e-5);
});

test('and dissolved again, everything is where it was', () => {
  const { kit, blobs } = made();
  const there = run(kit, blobs, callOf(insertParent, { id: 'up', parts: ['b'], name: 'carrier', at: [0, 9, 0] }));
  const back = run(there, blobs, callOf(dissolveParents, { parts: ['up'] }));
  expect(Object.keys(back.parts)).toEqual(Object.keys(kit.parts));
  expect(back.parts.b.parent).toBe('a');
  expect(greatestDifference(worldVertices(back, blobs), worldVertices(kit, blobs))).toBeLessThan(1e-5);
});

test('what is drawn, moves or holds a skin is not dissolved, and says why', () => {
  const { kit, blobs } = made();
  expect(() => run(kit, blobs, callOf(dissolveParents, { parts: ['b'] }))).toThrow(/drawn itself/);
  const hollow = { ...kit, parts: { ...kit.parts, b: { ...kit.parts.b, mesh: null } } };
  expect(() => run(withMotion(hollow, blobs, 'b', 'turn', 0, [0, 9]), blobs, callOf(dissolveParents, { parts: ['b'] }))).toThrow(
    /it moves/,
  );
  const held = {
    ...hollow,
    skins: { s: { id: 's', name: 's', joints: ['b'], inverseBindMatrices: { blob: 'x', type: 'f32', size: 16, count: 1 } as never } },
  };
  expect(() => run(held, blobs, callOf(dissolveParents, { parts: ['b'] }))).toThrow(/held by it/);
});
