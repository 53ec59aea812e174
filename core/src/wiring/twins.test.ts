import fc from 'fast-check';
import { callOf, newPart, type Between, type BindingRow, type Kit, type MemoryBlobs, type Quat, type Vec3 } from '../document';
import { composeMatrix, decomposeMatrix, flattenParts, invertMatrix, multiplyMatrices, Poser, quatFromTurn, restWorlds } from '../geometry';
import { chainKit, extentOf, greatestDifference, run, worldVertices } from '../tests/helpers';
import { addBinding, setBinding, setBindingRow } from './binding-operations';
import { addBindingPose } from './evaluate-binding';
import { isSettled } from './link-gaps';
import { addLink } from './link-operations';
import { setSwitch, switchGroups } from './switches';
import { likePairs } from './like-pairs';
import { outOfStep } from './out-of-step';
import { bindTwins } from './twins';

const angle = fc.double({ min: -170, max: 170, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))) as fc.Arbitrary<Vec3>;
const orders = fc.constantFrom('xyz', 'zyx', 'yxz') as fc.Arbitrary<'xyz'>;
const quarter = fc.constantFrom(0, 90, 180, 270);

interface Side {
  at: Vec3;
  turn: Vec3;
  order: 'xyz';
}

/** Puts a part where it stands in the world, below another one. */
function put(kit: Kit, id: string, parent: string, mesh: string | null, { at, turn: own, order }: Side): void {
  const above = restWorlds(kit).get(parent)!;
  const { translation, rotation } = decomposeMatrix(
    multiplyMatrices(invertMatrix(above)!, composeMatrix(at, quatFromTurn(own, 'xyz'), [1, 1, 1])),
  );
  kit.parts[id] = newPart({ id, name: id, parent, mesh, translation, rotation: rotation as Quat });
  kit.parts[id].turnOrder = order;
}

/** A left chain of two and a right one in its mirror image: places mirrored, own axes as they come. */
function sides(left: Side[], right: Side[]): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'base' }]);
  left.forEach((side, i) => put(kit, `left${i}`, i === 0 ? 'base' : `left${i - 1}`, kit.parts.base.mesh, side));
  right.forEach((side, i) => {
    const [x, y, z] = left[i].at;
    put(kit, `right${i}`, i === 0 ? 'base' : `right${i - 1}`, kit.parts.base.mesh, { ...side, at: [-x, y, z] });
  });
  return { kit, blobs };
}

const table = (offset: Vec3, own: Vec3): BindingRow[] => [
  { value: 0, offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] },
  { value: -1, offset: [offset[1], offset[2], offset[0]], turn: own.map((value) => -value / 3) as Vec3, size: [1, 1, 1] },
  { value: 1, offset, turn: own, size: [1, 1, 1] },
];

const bind = (kit: Kit, blobs: MemoryBlobs, part: string, variable: string, rows: BindingRow[], between?: Between) =>
  run(
    kit,
    blobs,
    callOf(addBinding, { id: `${part}_${variable}`, part, variable, index: 0, outside: 'extend', rows, ...(between && { between }) }),
  );

/** World matrices where every binding stands at the value of its variable, whatever its index. */
function posed(kit: Kit, values: Record<string, number>): Poser {
  const poser = new Poser(flattenParts(kit));
  for (const binding of Object.values(kit.bindings))
    addBindingPose(binding, values[binding.variable], poser.flat.indexOf.get(binding.part)!, poser.pose);
  poser.update();
  return poser;
}

/** How a part has moved from rest, in the world. */
function motion(kit: Kit, values: Record<string, number>, part: string): number[] {
  return [...multiplyMatrices(Float64Array.from(posed(kit, values).worldOf(part)), invertMatrix(restWorlds(kit).get(part)!)!)];
}

const inMirror = (m: number[]) => m.map((value, i) => ((Math.floor(i / 4) === 0) !== (i % 4 === 0) ? -value : value));
const side = (own: fc.Arbitrary<Vec3>) => fc.record({ at: place, turn: own, order: orders });
const values = fc.record({ v: fc.double({ min: -3, max: 3, noNaN: true }), w: fc.double({ min: -3, max: 3, noNaN: true }) });

test.each([
  ['that lie along the axes', fc.tuple(quarter, quarter, quarter) as fc.Arbitrary<Vec3>],
  ['that lie askew', turn],
])('twins with own axes %s move in the mirror over the whole range and beyond', (_, own) => {
  fc.assert(
    fc.property(
      fc.tuple(side(own), side(own)),
      fc.tuple(side(own), side(own)),
      fc.tuple(place, turn, place, turn),
      values,
      fc.constantFrom<Between | undefined>(undefined, 'curve'),
      (left, right, [o0, t0, o1, t1], at, between) => {
        const { kit, blobs } = sides(left, right);
        const bound = bind(bind(kit, blobs, 'left0', 'v', table(o0, t0), between), blobs, 'left1', 'w', table(o1, t1), between);
        const pairs = { left0: 'right0', left1: 'right1' };
        const both = run(bound, blobs, callOf(bindTwins, { bindings: ['left0_v', 'left1_w'], pairs, axis: 0, index: 3 }));
        const before = worldVertices(bound, blobs);
        const names = Object.keys(kit.parts);
        // What was put in between draws nothing.
        expect(worldVertices(both, blobs).length).toBe(before.length);
        expect(greatestDifference(worldVertices(both, blobs), before)).toBeLessThan(1e-6 * extentOf(before));
        for (const i of [0, 1])
          expect(greatestDifference(motion(both, at, `right${i}`), inMirror(motion(both, at, `left${i}`)))).toBeLessThan(2e-6);
        for (const binding of Object.values(both.bindings))
          expect(binding.index).toBe(binding.part.startsWith('left') && names.includes(binding.part) ? 0 : 3);
      },
    ),
    { numRuns: 60 },
  );
});

test('twin of twin is as it was', () => {
  fc.assert(
    fc.property(
      fc.tuple(quarter, quarter, quarter),
      fc.tuple(quarter, quarter, quarter),
      place,
      fc.constantFrom(0, 1, 2),
      (a, b, offset, axis) => {
        const at: Vec3 = [1, 0.5, -0.3];
        const { kit, blobs } = sides([{ at, turn: a as Vec3, order: 'xyz' }], [{ at, turn: b as Vec3, order: 'xyz' }]);
        const own = [0, 0, 0].map((zero, i) => (i === axis ? 35 : zero)) as Vec3;
        const bound = bind(kit, blobs, 'left0', 'v', table(offset, own));
        const give = (from: string, to: string) => (of: Kit) =>
          run(
            of,
            blobs,
            callOf(bindTwins, {
              bindings: Object.values(of.bindings).flatMap(({ id, part }) => (part === from ? [id] : [])),
              pairs: { [from]: to },
              axis: 0,
              index: 0,
            }),
          );
        const back = give('right0', 'left0')(give('left0', 'right0')(bound));
        const [was, is] = [bound, back].map((of) => Object.values(of.bindings).find(({ part }) => part === 'left0')!.rows);
        is.forEach((row, i) => {
          row.turn.forEach((value, k) => expect(value).toBeCloseTo(was[i].turn[k], 9));
          row.offset.forEach((value, k) => expect(value).toBeCloseTo(was[i].offset[k], 9));
        });
      },
    ),
  );
});

test('property: a twin is in step until one of the two is changed, and with the rows that are offered it is again', () => {
  const own = fc.tuple(quarter, quarter, quarter) as fc.Arbitrary<Vec3>;
  fc.assert(
    fc.property(own, own, place, turn, fc.double({ min: -1.5, max: 1.5, noNaN: true }), (a, b, offset, [degrees], v) => {
      const at: Vec3 = [1, 0.5, -0.3];
      const { kit, blobs } = sides([{ at, turn: a, order: 'xyz' }], [{ at, turn: b, order: 'xyz' }]);
      const pairs = { left0: 'right0', right0: 'left0' };
      const bound = bind(kit, blobs, 'left0', 'v', table(offset, [degrees, 0, 0]));
      expect(outOfStep(bound, bound.bindings.left0_v, pairs)).toBeNull();
      const both = run(bound, blobs, callOf(bindTwins, { bindings: ['left0_v'], pairs: { left0: 'right0' }, axis: 0, index: 3 }));
      const right = Object.values(both.bindings).find(({ part }) => part === 'right0')!;
      expect(outOfStep(both, both.bindings.left0_v, pairs)).toBeNull();
      expect(outOfStep(both, right, pairs)).toBeNull();
      const row: BindingRow = { value: 0.5, offset: [0.2, -0.1, 0.4], turn: [degrees + 20, 0, 0], size: [1, 1.5, 1] };
      const changed = run(both, blobs, callOf(setBindingRow, { binding: 'left0_v', row }));
      const stray = outOfStep(changed, changed.bindings.left0_v, pairs)!;
      expect(stray.binding.id).toBe(right.id);
      const mended = run(changed, blobs, callOf(setBinding, { binding: right.id, rows: stray.rows }));
      expect(outOfStep(mended, mended.bindings.left0_v, pairs)).toBeNull();
      expect(greatestDifference(motion(mended, { v }, 'right0'), inMirror(motion(mended, { v }, 'left0')))).toBeLessThan(2e-6);
    }),
    { numRuns: 40, endOnFailure: true },
  );
});

test('a carrier that has no twin gets one above the twins of what it carries', () => {
  const { kit, blobs } = chainKit([{ id: 'base' }]);
  put(kit, 'carrier', 'base', null, { at: [1, 1, 0], turn: [0, 30, 0], order: 'xyz' });
  put(kit, 'left', 'carrier', kit.parts.base.mesh, { at: [1.5, 1, 0], turn: [0, 0, 20], order: 'xyz' });
  put(kit, 'right', 'base', kit.parts.base.mesh, { at: [-1.5, 1, 0], turn: [0, 0, 0], order: 'xyz' });
  const bound = bind(bind(kit, blobs, 'carrier', 'v', table([0, 0, 0], [0, 40, 0])), blobs, 'left', 'w', table([0, 0.2, 0], [30, 0, 0]));
  const call = callOf(bindTwins, { bindings: ['carrier_v', 'left_w'], pairs: { left: 'right' }, axis: 0, index: 1 });
  const both = run(bound, blobs, call);
  const at = { v: 0.7, w: -0.4 };
  expect(greatestDifference(motion(both, at, 'right'), inMirror(motion(both, at, 'left')))).toBeLessThan(1e-9);
  expect(Object.values(both.bindings)).toHaveLength(4);
});

test('a part that is drawn and has no twin is refused by name, and nothing is done', () => {
  const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'left' }]);
  const bound = bind(kit, blobs, 'left', 'v', table([0, 1, 0], [0, 0, 0]));
  expect(() => run(bound, blobs, callOf(bindTwins, { bindings: ['left_v'], pairs: {}, axis: 0, index: 1 }))).toThrow(/“left” has no twin/);
});

test('twins are shown and hidden as what they are twins of: by an index of their own, or as a set of their own', () => {
  const side = (at: Vec3): Side => ({ at, turn: [0, 0, 0], order: 'xyz' });
  const { kit, blobs } = sides([side([1, 0, 0]), side([1, 1, 0])], [side([1, 0, 0]), side([1, 1, 0])]);
  const bound = bind(kit, blobs, 'left0', 'fold', table([0, 0, 0.1], [10, 0, 0]));
  const pairs = { left0: 'right0', left1: 'right1' };
  const switched = run(
    bound,
    blobs,
    ...(['left0', 'left1'] as const).map((part, i) =>
      callOf(setSwitch, {
        part,
        variable: 'fold',
        index: 0,
        spans: [{ from: i === 0 ? null : 0.5, to: i === 0 ? 0.5 : null }],
        among: 'leaf',
      }),
    ),
  );
  const other = run(switched, blobs, callOf(bindTwins, { bindings: ['left0_fold'], pairs, axis: 0, index: 1 }));
  const of = (made: Kit, part: string) => made.switches!.find((one) => one.part === part)!;
  for (const [part, twin] of Object.entries(pairs)) {
    expect(of(other, twin)).toMatchObject({ variable: 'fold', index: 1, among: 'leaf', spans: of(other, part).spans });
    expect(of(other, part)).toEqual(of(switched, part));
  }
  // By one index all four would be one set, and two of them shown at once.
  const same = run(switched, blobs, callOf(bindTwins, { bindings: ['left0_fold'], pairs, axis: 0, index: 0 }));
  expect(switchGroups(same).map((group) => group.map(({ part }) => part).sort())).toEqual([
    ['left0', 'left1'],
    ['right0', 'right1'],
  ]);
});

test.each([0, 2.5])(
  'links go over to twins across a plane at %d, meet there as the tables say, and are renewed by themselves',
  (middle) => {
    const side = (at: Vec3, own: Vec3 = [0, 0, 0]): Side => ({ at, turn: own, order: 'xyz' });
    const { kit, blobs } = sides([side([1, 1, 0]), side([1, 2, 1])], [side([1, 1, 0], [0, 0, 180]), side([1, 2, 1], [0, 180, 0])]);
    put(kit, 'stayL', 'base', kit.parts.base.mesh, side([1, 0.5, 1.5]));
    put(kit, 'stayR', 'base', kit.parts.base.mesh, side([-1, 0.5, 1.5]));
    // Machinery need not stand in the middle of its kit: the plane is midway between the two.
    kit.parts.base.translation[0] += middle;
    const bound = bind(kit, blobs, 'left0', 'fold', table([0, 0, 0], [40, 0, 0]));
    const linked = run(
      bound,
      blobs,
      callOf(addLink, {
        kind: 'meet',
        parts: ['left1', 'stayL'],
        axes: [0, 0],
        at: [0, -0.4, 0.9],
        on: null,
        variable: 'fold',
        index: 0,
        min: -1,
        max: 1,
        neutral: 0,
      }),
    );
    const pairs = { left0: 'right0', left1: 'right1', stayL: 'stayR' };
    const made = run(linked, blobs, callOf(bindTwins, { bindings: Object.keys(linked.bindings), pairs, axis: 0, index: 1 }));
    expect(made.links).toHaveLength(2);
    const [, twin] = made.links!;
    expect(twin).toMatchObject({ parts: ['right1', 'stayR'], index: 1, axes: [0, 0] });
    for (const link of made.links!) expect(isSettled(made, link)).toBe(true);
  },
);

test('at another place, turned as it comes, parts move as those that they are like, seen from there', () => {
  const side = fc.record({ at: place, turn, order: orders });
  fc.assert(
    fc.property(
      fc.array(side, { minLength: 2, maxLength: 2 }),
      fc.tuple(place, turn),
      fc.array(fc.tuple(quarter, quarter), { minLength: 2, maxLength: 2 }),
      fc.tuple(place, place),
      fc.double({ min: -1.5, max: 1.5, noNaN: true }),
      (left, [to, turned], own, [offset, spin], value) => {
        const { kit: made, blobs } = sides(left, []);
        // The same chain, taken elsewhere; the own axes of its parts are turned by quarters, so that they are other ones.
        const going = composeMatrix(to, quatFromTurn(turned, 'xyz'), [1, 1, 1]);
        const kit = structuredClone(made);
        const before = restWorlds(kit);
        left.forEach((_, i) => {
          const there = multiplyMatrices(going, before.get(`left${i}`)!);
          const [a, b] = i === 0 ? [0, 0] : own[i];
          const axes = multiplyMatrices(there, composeMatrix([0, 0, 0], quatFromTurn([a, b, 0], 'xyz'), [1, 1, 1]));
          const parent = i === 0 ? 'base' : `there${i - 1}`;
          const { translation, rotation } = decomposeMatrix(multiplyMatrices(invertMatrix(restWorlds(kit).get(parent)!)!, axes));
          kit.parts[`there${i}`] = newPart({
            id: `there${i}`,
            name: `there${i}`,
            parent,
            mesh: kit.parts.base.mesh,
            translation,
            rotation: rotation as Quat,
          });
          kit.parts[`there${i}`].turnOrder = kit.parts[`left${i}`].turnOrder;
        });
        let bound = bind(kit, blobs, 'left0', 'swing', table(offset, [0, 40 * spin[1], 0]));
        bound = bind(bound, blobs, 'left1', 'bend', table([0, 0, 0], [30 * spin[0], 0, 0]));
        const pairs = { left0: 'there0', left1: 'there1' };
        const after = run(bound, blobs, callOf(bindTwins, { bindings: Object.keys(bound.bindings), pairs, axis: null, index: 0 }));
        const [rest, moved] = [posed(after, { swing: 0, bend: 0 }), posed(after, { swing: value, bend: value })];
        for (const i of [0, 1]) {
          const way = (id: string) =>
            multiplyMatrices(Float64Array.from(moved.worldOf(id)), invertMatrix(Float64Array.from(rest.worldOf(id)))!);
          const wanted = multiplyMatrices(multiplyMatrices(going, way(`left${i}`)), invertMatrix(going)!);
          way(`there${i}`).forEach((number, k) => expect(Math.abs(number - wanted[k])).toBeLessThan(1e-6));
        }
      },
    ),
    { numRuns: 60, endOnFailure: true },
  );
});

test('like parts are found by name without side and number, by mesh, and by order where there are as many', () => {
  const { kit } = chainKit([{ id: 'base' }]);
  const put2 = (id: string, parent: string, name: string, order: number) => {
    kit.parts[id] = newPart({ id, name, parent, order });
  };
  put2('a', 'base', 'drv_leg_front_left', 0);
  put2('a1', 'a', 'drv_foot_front_left', 0);
  put2('a2', 'a', 'spring', 1);
  put2('b', 'base', 'drv_leg_back_left', 1);
  put2('b2', 'b', 'coil', 0);
  put2('b1', 'b', 'drv_foot_back_left', 1);
  expect(likePairs(kit, 'a', 'b')).toEqual({ a: 'b', a1: 'b1', a2: 'b2' });
  delete kit.parts.b2;
  expect(likePairs(kit, 'a', 'b')).toEqual({ a: 'b', a1: 'b1' });
});
