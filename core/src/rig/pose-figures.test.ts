import fc from 'fast-check';
import { callOf, type Kit } from '../document';
import { bodyKit, box, together, tube } from '../tests/bodies';
import { run } from '../tests/helpers';
import { crossings } from './crossings';
import { enclosedVolume } from './pose-figures';
import { setBend } from './joint-operations';
import { solveSkin } from './solve-skin';
import { bendPoses, PoseMeter, wholePoses } from './test-poses';

test('the volume of a box is that of its sides, wherever it stands and about whatever point it is measured', () => {
  const side = fc.double({ min: 0.1, max: 3, noNaN: true });
  const place = fc.double({ min: -5, max: 5, noNaN: true });
  fc.assert(
    fc.property(side, side, side, place, place, (a, b, c, x, y) => {
      const { positions, indices } = box([x, y, 0], [x + a, y + b, c], 3);
      expect(enclosedVolume(positions, indices, [y, x, 1])).toBeCloseTo(a * b * c, 6);
    }),
  );
});

test('boxes apart do not cross; one run into the other does, and its own faces never do', () => {
  const still = box([0, 0, 0], [1, 1, 1], 4);
  const at = (x: number) => together(still, box([x, 0.27, 0.26], [x + 1, 0.74, 0.72], 4));
  const pairs = (x: number) => crossings(Float32Array.from(at(x).positions), at(x).indices);
  expect(crossings(Float32Array.from(still.positions), still.indices)).toEqual([]);
  expect(pairs(1.5)).toEqual([]);
  expect(pairs(0.6).length).toBeGreaterThan(8);
  // Each pair is of one box and the other.
  const triangles = still.indices.length / 3;
  for (const [a, b] of pairs(0.6)) expect(a < triangles).toBe(b >= triangles);
});

test('each joint but the first is bent both ways about both axes across it; a folded tube runs into itself, a bent one does not', () => {
  const { kit, blobs } = bodyKit(tube(0.05, 0, 0.6, 60, 20), [
    { id: 'low', parent: null, at: [0, 0.02, 0] },
    { id: 'high', parent: 'low', at: [0, 0.28, 0], tail: [0, 0.28, 0] },
  ]);
  const solved = run(kit, blobs, callOf(solveSkin, { parts: ['skin'] }));
  const poses = bendPoses(solved);
  expect(poses.map(({ turns: [{ joint, axis, degrees }] }) => `${joint} ${axis} ${degrees}`)).toEqual([
    'high 0 45',
    'high 0 -45',
    'high 2 45',
    'high 2 -45',
  ]);
  expect(wholePoses(solved)).toEqual([]);
  const meter = new PoseMeter(solved, blobs);
  const bent = meter.measure(poses[0]);
  expect(bent.volume).toBeGreaterThan(0.9);
  expect(bent.crossings).toBe(0);
  const folded = meter.measure({ id: 'fold', title: 'Fold', turns: [{ joint: 'high', axis: 0, degrees: 170 }] });
  expect(folded.crossings).toBeGreaterThan(0);
  expect(['low', 'high']).toContain(folded.at[0]);
  // What is drawn of it: whole triangles, each with its three edges.
  expect(bent.outline).toHaveLength(0);
  expect(folded.outline.length % 18).toBe(0);
  expect(folded.outline.length).toBeGreaterThanOrEqual(36);
  for (let i = 0; i < folded.outline.length; i += 18) {
    const corner = (at: number) => [...folded.outline.subarray(i + at, i + at + 3)];
    expect([corner(3), corner(9), corner(15)]).toEqual([corner(6), corner(12), corner(0)]);
  }
});

test('a joint is bent as far as a person said it can, whatever its name says, and by its name again once that is taken back', () => {
  const { kit, blobs } = bodyKit(tube(0.05, 0, 0.6, 60, 20), [
    { id: 'low', parent: null, at: [0, 0.02, 0] },
    { id: 'high', parent: 'low', at: [0, 0.28, 0], tail: [0, 0.28, 0] },
  ]);
  const degreesOf = (of: Kit) => [
    ...new Set(bendPoses(of, ['low', 'high']).flatMap(({ turns }) => turns.map(({ degrees }) => Math.abs(degrees)))),
  ];
  const said = run(kit, blobs, callOf(setBend, { joints: ['low', 'high'], degrees: 12 }));
  expect(degreesOf(said)).toEqual([12]);
  expect(run(said, blobs, callOf(setBend, { joints: ['low', 'high'], degrees: null }))).toEqual(kit);
});
