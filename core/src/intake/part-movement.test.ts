import fc from 'fast-check';
import { callOf, type Id, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { quatFromTurn, restWorlds, transformPartMesh } from '../geometry';
import { movePivot } from '../shape';
import { chainKit, greatestDifference, run, withMotion, worldVertices } from '../tests/helpers';
import { compareVersion, matchVersion } from './match-version';
import { takeVersion } from './take-version';

const number = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
const vector = (most: number) => fc.tuple(number(most), number(most), number(most)) as fc.Arbitrary<Vec3>;

/** A base, an arm on it and a hook below that, as a file has them. */
function source(blobs?: MemoryBlobs) {
  const made = chainKit(
    [
      { id: 'base', from: 'base' },
      { id: 'arm', from: 'base/arm', translation: [0, 1, 0.4], rotation: quatFromTurn([0, 30, 10], 'xyz') },
      { id: 'hook', from: 'base/arm/hook', translation: [0.8, 0.1, 0] },
    ],
    blobs,
  );
  return { blobs: made.blobs, kit: structuredClone(made.kit) };
}

function take(kit: Kit, base: Kit, next: Kit, blobs: MemoryBlobs) {
  const matches = matchVersion(kit, base, next, blobs);
  const rows = compareVersion(kit, base, next, matches, blobs);
  const pairs = Object.fromEntries(Object.entries(matches).map(([id, { part }]) => [id, part]));
  return { rows, after: run(kit, blobs, callOf(takeVersion, { next, base, matches: pairs })) };
}

const pivot = (kit: Kit, id: Id) => [...restWorlds(kit).get(id)!.slice(12, 15)];
const told = (rows: ReturnType<typeof take>['rows']) => rows.map(({ name, state, pivotGoes }) => [name, state, pivotGoes]);

test('what a new file has elsewhere goes there with its pivot: every vertex and pivot is where the file has it, motion and numbers stay', () => {
  fc.assert(
    fc.property(fc.constantFrom('base', 'arm', 'hook'), vector(2), vector(170), (which, by, turn) => {
      fc.pre(Math.hypot(...by) > 0.01);
      const { kit: base, blobs } = source();
      const kit = withMotion(structuredClone(base), blobs, 'arm', 'turn', 1, [0, 40, -20]);
      const next = structuredClone(base);
      const part = next.parts[which];
      part.translation = part.translation.map((value, i) => value + by[i]) as Vec3;
      part.rotation = quatFromTurn(turn, 'xyz');
      const { rows, after } = take(kit, base, next, blobs);
      const below = ['base', 'arm', 'hook'].slice(['base', 'arm', 'hook'].indexOf(which));
      expect(told(rows)).toEqual(['base', 'arm', 'hook'].map((id) => (below.includes(id) ? [id, 'moved', true] : [id, 'same', false])));
      expect(greatestDifference(worldVertices(after, blobs), worldVertices(next, blobs))).toBeLessThan(1e-5);
      for (const id of below) expect(greatestDifference(pivot(after, id), pivot(next, id))).toBeLessThan(1e-5);
      // What hangs below did not move against it, so its own numbers are as they were; and so are its keys.
      for (const id of below.slice(1))
        expect(greatestDifference(after.parts[id].translation, kit.parts[id].translation)).toBeLessThan(1e-6);
      expect(after.clips).toEqual(kit.clips);
      expect(after.meshes).toEqual(kit.meshes);
    }),
    { numRuns: 40 },
  );
});

test('a file that writes places into its meshes moves the part all the same', () => {
  const { kit: base, blobs } = source();
  const next = structuredClone(base);
  transformPartMesh(next, 'arm', [1, 0, 0, 0, 1, 0, 0, 0, 1], [0, 0.25, -0.5], blobs);
  const { rows, after } = take(structuredClone(base), base, next, blobs);
  expect(told(rows).filter(([, state]) => state !== 'same')).toEqual([['arm', 'moved', true]]);
  expect(rows.find(({ name }) => name === 'arm')!.moved).toBeCloseTo(Math.hypot(0.25, 0.5), 5);
  expect(greatestDifference(worldVertices(after, blobs), worldVertices(next, blobs))).toBeLessThan(1e-5);
  // The file's own pivot stayed behind; the kit's goes along with what it is the pivot of.
  const moved = greatestDifference(pivot(after, 'arm'), pivot(base, 'arm'));
  expect(moved).toBeGreaterThan(0.2);
  expect(greatestDifference(pivot(after, 'hook'), pivot(base, 'hook'))).toBeLessThan(1e-6);
});

test('a pivot that a person put somewhere stays there; the mesh goes without it', () => {
  const { kit: base, blobs } = source();
  const kit = run(structuredClone(base), blobs, callOf(movePivot, { part: 'arm', to: [0.3, 0.2, 0.1] }));
  const next = structuredClone(base);
  next.parts.arm.translation = [0.5, 1.5, 0.4];
  const { rows, after } = take(kit, base, next, blobs);
  expect(told(rows)).toEqual([
    ['base', 'same', false],
    ['arm', 'moved', false],
    ['hook', 'moved', true],
  ]);
  expect(greatestDifference(pivot(after, 'arm'), pivot(kit, 'arm'))).toBeLessThan(1e-6);
  expect(greatestDifference(worldVertices(after, blobs), worldVertices(next, blobs))).toBeLessThan(1e-5);
});

test('what was turned and moved in the kit since is done to where the file has it, too', () => {
  const { kit: base, blobs } = source();
  const kit = structuredClone(base);
  kit.parts.base.rotation = quatFromTurn([0, 90, 0], 'xyz');
  kit.parts.base.translation = [0, 0, 3];
  const next = structuredClone(base);
  next.parts.hook.translation = [0.8, 0.1, 1];
  const { rows, after } = take(kit, base, next, blobs);
  expect(told(rows).filter(([, state]) => state !== 'same')).toEqual([['hook', 'moved', true]]);
  const meant = structuredClone(kit);
  meant.parts.hook.translation = [0.8, 0.1, 1];
  expect(greatestDifference(worldVertices(after, blobs), worldVertices(meant, blobs))).toBeLessThan(1e-5);
});

test('what is larger as well was not only moved', () => {
  const { kit: base, blobs } = source();
  const next = structuredClone(base);
  next.parts.hook.scale = [2, 2, 2];
  const { rows, after } = take(structuredClone(base), base, next, blobs);
  expect(told(rows).find(([name]) => name === 'hook')).toEqual(['hook', 'changed', false]);
  expect(greatestDifference(worldVertices(after, blobs), worldVertices(next, blobs))).toBeLessThan(1e-5);
  expect(greatestDifference(pivot(after, 'hook'), pivot(base, 'hook'))).toBeLessThan(1e-6);
});
