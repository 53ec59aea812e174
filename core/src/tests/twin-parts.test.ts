import fc from 'fast-check';
import { callOf, newId, newPart, type BindingRow, type Id, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { flattenParts, Poser, posedVertices, quatFromTurn } from '../geometry';
import { twinParts, type TwinPlace } from '../shape';
import { addBinding, addBindingPose, bindTwins, likePairs, mirrorPlane, missingTwins } from '../wiring';
import { chainKit, greatestDifference, putWedge, run } from './helpers';

const angle = fc.double({ min: -80, max: 80, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))) as fc.Arbitrary<Vec3>;

/** A gate of the left with a strut that hangs on it, each with a table; of the right a gate, or nothing. */
function machine(at: Vec3, own: Vec3, strut: Vec3, middle: number, right: 'gate' | 'nothing'): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'base', translation: [middle, 0, 0] }]);
  const add = (id: Id, parent: Id, translation: Vec3, rotation: Vec3) => {
    const mesh = putWedge(kit, blobs, `mesh_${id}`);
    kit.parts[id] = newPart({ id, name: id, parent, mesh, translation, rotation: quatFromTurn(rotation, 'xyz') });
  };
  add('gate_l', 'base', at, [0, 0, 0]);
  add('strut_l', 'gate_l', strut, own);
  if (right === 'gate') add('gate_r', 'base', [-at[0], at[1], at[2]], [0, 0, 0]);
  const rows = (degrees: Vec3, offset: Vec3): BindingRow[] => [
    { value: 0, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] },
    { value: 1, offset, turn: degrees, size: [1, 1, 1] },
  ];
  const bind = (part: Id, degrees: Vec3, offset: Vec3) =>
    callOf(addBinding, { id: `b_${part}`, part, variable: 'v', index: 0, outside: 'extend', rows: rows(degrees, offset) });
  return { kit: run(kit, blobs, bind('gate_l', [0, 50, 0], [0, 0.1, 0.2]), bind('strut_l', [0, 0, 35], [0.3, 0, -0.1])), blobs };
}

/** Vertices of a part in the world with every variable at a value. */
function verticesOf(kit: Kit, blobs: MemoryBlobs, id: Id, value: number): number[] {
  const poser = new Poser(flattenParts(kit));
  for (const binding of Object.values(kit.bindings)) addBindingPose(binding, value, poser.flat.indexOf.get(binding.part)!, poser.pose);
  poser.update();
  return [...posedVertices(kit, blobs, kit.parts[id], (one) => poser.worldOf(one))];
}

/** What is missing is made and everything given, as the interface does in one step. */
function given(kit: Kit, blobs: MemoryBlobs, pairs: Record<Id, Id>, where: TwinPlace): { kit: Kit; twins: Record<Id, Id> } {
  const bound = Object.values(kit.bindings);
  const { tops, parts } = missingTwins(
    kit,
    bound.map(({ part }) => part),
    pairs,
  );
  const ids = Object.fromEntries(parts.map((id) => [id, newId()]));
  const names = Object.fromEntries(parts.map((id) => [id, kit.parts[id].name.replace(/_l$/, '_r')]));
  const twins = { ...pairs, ...ids };
  const axis = 'axis' in where ? where.axis : null;
  const calls = [
    ...(tops.length > 0 ? [callOf(twinParts, { tops, ids, names, place: where })] : []),
    callOf(bindTwins, { bindings: bound.map(({ id }) => id), pairs: twins, axis, index: 1 }),
  ];
  return { kit: run(kit, blobs, ...calls), twins };
}

test.each(['gate', 'nothing'] as const)(
  'where on the other side stands %s, what is missing is mirrored, hangs below its twin, and moves as the image',
  (right) => {
    fc.assert(
      fc.property(place, turn, place, fc.double({ min: -3, max: 3, noNaN: true }), (at, own, strut, far) => {
        fc.pre(Math.abs(at[0]) > 0.2);
        // Off the middle of the kit the plane is found by the pair that there is.
        const middle = right === 'gate' ? far : 0;
        const { kit, blobs } = machine(at, own, strut, middle, right);
        const pairs: Record<Id, Id> = right === 'gate' ? { gate_l: 'gate_r', gate_r: 'gate_l' } : {};
        const plane = mirrorPlane(kit, ['strut_l', 'gate_l'], pairs, 0);
        expect(plane).toBeCloseTo(middle, 9);
        const made = given(kit, blobs, pairs, { axis: 0, at: plane });
        const [gate, strutTwin] = [made.twins.gate_l, made.twins.strut_l];
        expect(made.kit.parts[strutTwin]).toMatchObject({ parent: gate, name: 'strut_r' });
        for (const value of [0, 0.4, 1, -0.7])
          for (const [id, twin] of [
            // The gate that was there has a shape of its own.
            ...(right === 'gate' ? [] : [['gate_l', gate] as const]),
            ['strut_l', strutTwin] as const,
          ]) {
            const image = verticesOf(made.kit, blobs, id, value).map((one, i) => (i % 3 === 0 ? 2 * middle - one : one));
            expect(greatestDifference(verticesOf(made.kit, blobs, twin, value), image)).toBeLessThan(1e-5);
          }
      }),
      { numRuns: 40 },
    );
  },
);

test('at another place, turned as it comes, what is missing is repeated and moves as seen from there', () => {
  fc.assert(
    fc.property(place, turn, place, turn, place, (at, own, strut, there, where) => {
      const { kit: alone, blobs } = machine(at, own, strut, 0, 'nothing');
      const kit = structuredClone(alone);
      kit.parts.gate_2 = newPart({
        id: 'gate_2',
        name: 'gate_2',
        parent: 'base',
        mesh: kit.parts.gate_l.mesh,
        translation: where,
        rotation: quatFromTurn(there, 'xyz'),
      });
      const made = given(kit, blobs, likePairs(kit, 'gate_l', 'gate_2'), { from: 'gate_l', to: 'gate_2' });
      const twin = made.twins.strut_l;
      expect(made.kit.parts[twin].parent).toBe('gate_2');
      for (const value of [0, 0.6, -1]) {
        /** The part against its gate at rest, by the lengths between its corners and the gate’s: the same here as there. */
        const lengths = (gate: Id, id: Id) => {
          const [rest, now] = [verticesOf(made.kit, blobs, gate, 0), verticesOf(made.kit, blobs, id, value)];
          return Array.from({ length: 16 }, (_, i) =>
            Math.hypot(...[0, 1, 2].map((axis) => rest[3 * (i % 4) + axis] - now[3 * Math.floor(i / 4) + axis])),
          );
        };
        // The gates' own shape is one and the same.
        expect(greatestDifference(lengths('gate_2', twin), lengths('gate_l', 'strut_l'))).toBeLessThan(1e-5);
      }
    }),
    { numRuns: 40 },
  );
});

test('what carries something that has a twin already is not made a second time, and is refused by name', () => {
  const { kit: alone, blobs } = machine([1, 0, 0], [0, 0, 0], [0, 1, 0], 0, 'nothing');
  const kit = structuredClone(alone);
  kit.parts.strut_r = { ...kit.parts.strut_l, id: 'strut_r', name: 'strut_r', parent: 'base' };
  const pairs = { strut_l: 'strut_r', strut_r: 'strut_l' };
  expect(missingTwins(kit, ['gate_l', 'strut_l'], pairs)).toEqual({ tops: [], parts: [] });
  expect(() => run(kit, blobs, callOf(bindTwins, { bindings: ['b_gate_l', 'b_strut_l'], pairs, axis: 0, index: 1 }))).toThrow(
    /“gate_l” has no twin/,
  );
});
