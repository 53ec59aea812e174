import fc from 'fast-check';
import { callOf, type BindingRow, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { flattenParts, Poser, quatFromTurn } from '../geometry';
import { chainKit, extentOf, greatestDifference, run, withMotion, worldVertices } from '../tests/helpers';
import { addBinding } from './binding-operations';
import { addBindingPose } from './evaluate-binding';
import { chainOf, liftLevel } from './levels';

const angle = fc.double({ min: -170, max: 170, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))) as fc.Arbitrary<Vec3>;
const rows = (offset: Vec3, own: Vec3): BindingRow[] => [
  { value: 0, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] },
  { value: 1, offset, turn: own, size: [1, 1, 1] },
];

function chain(rests: { turn: Vec3; at: Vec3 }[]): { kit: Kit; blobs: MemoryBlobs } {
  return chainKit(
    rests.map(({ turn: own, at }, i) => ({
      id: `p${i}`,
      translation: at,
      rotation: quatFromTurn(own, 'xyz'),
      scale: i === 0 ? [2, 2, 2] : [1, 1, 1],
    })),
  );
}

const bind = (kit: Kit, blobs: MemoryBlobs, part: string, variable: string, table: BindingRow[]) =>
  run(kit, blobs, callOf(addBinding, { id: variable, part, variable, index: null, outside: 'clamp', rows: table }));

/** Where a part’s own point goes when its variable alone is moved, world. */
function goes(kit: Kit, variable: string): number[] {
  const binding = kit.bindings[variable];
  const poser = new Poser(flattenParts(kit));
  const before = [...poser.worldOf(binding.part)];
  addBindingPose(binding, 1, poser.flat.indexOf.get(binding.part)!, poser.pose);
  poser.update();
  return [...poser.worldOf(binding.part)].map((value, i) => value - before[i]);
}

test('a level that is lifted moves no vertex at rest, and its table the same way through the world', () => {
  const rest = fc.record({ turn, at: place });
  fc.assert(
    fc.property(fc.array(rest, { minLength: 4, maxLength: 5 }), place, turn, place, turn, (rests, o1, t1, o2, t2) => {
      const { kit, blobs } = chain(rests);
      const last = `p${rests.length - 1}`;
      const bound = bind(bind(kit, blobs, 'p1', 'v', rows(o1, t1)), blobs, last, 'w', rows(o2, t2));
      const lifted = run(bound, blobs, callOf(liftLevel, { part: last, above: 'p1' }));
      expect([lifted.parts[last].parent, lifted.parts.p1.parent]).toEqual(['p0', last]);
      const before = worldVertices(bound, blobs);
      expect(greatestDifference(worldVertices(lifted, blobs), before)).toBeLessThan(1e-6 * extentOf(before));
      for (const variable of ['v', 'w']) expect(greatestDifference(goes(lifted, variable), goes(bound, variable))).toBeLessThan(1e-6);
    }),
  );
});

test('what would not be exact, or is no chain, is refused by name', () => {
  const { kit, blobs } = chain([
    { turn: [0, 0, 0], at: [0, 0, 0] },
    { turn: [0, 40, 0], at: [0, 1, 0] },
    { turn: [0, 0, 0], at: [1, 0, 0] },
  ]);
  const moved = withMotion(kit, blobs, 'p2', 'offset', 0, [0, 1]);
  expect(() => run(moved, blobs, callOf(liftLevel, { part: 'p2', above: 'p1' }))).toThrow(/“clip” moves “p2” along the axes/);
  expect(() => run(kit, blobs, callOf(liftLevel, { part: 'p1', above: 'p2' }))).toThrow(/“p2” does not carry “p1”/);
});

test('a chain is told from the ground up, with what moves each level', () => {
  const { kit, blobs } = chain([0, 1, 2].map(() => ({ turn: [0, 0, 0], at: [0, 0, 0] })));
  const bound = bind(kit, blobs, 'p2', 'gate_lift', rows([0, 1, 0], [0, 0, 0]));
  expect(chainOf(bound, 'p2')).toEqual([
    { part: 'p0', bindings: [], keys: [] },
    { part: 'p1', bindings: [], keys: [] },
    { part: 'p2', bindings: ['gate_lift'], keys: ['gate_lift'] },
  ]);
});
