import fc from 'fast-check';
import { checkKit, callOf, type Kit, type Quat, type Vec3 } from '../document';
import {
  couplingInWorld,
  flattenParts,
  placeFromBody,
  placeInBody,
  invertMatrix,
  multiplyMatrices,
  affineMatrix,
  Poser,
  quatFromTurn,
  restWorlds,
  transformPoint,
} from '../geometry';
import { removeParts, movePivot, setHingeAxis } from '../shape';
import { chainKit, run, worldVertices } from '../tests/helpers';
import { assemblyTree, bodyMotions, dragBody, poseAssembly } from './assembly';
import { anchorBody, couple, gatherBodies, makeBody, snapCouplings, touching } from './assembly-operations';

const angle = fc.double({ min: -170, max: 170, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const place = fc.double({ min: -2, max: 2, noNaN: true });
const point = fc.tuple(place, place, place) as fc.Arbitrary<Vec3>;

/** Frame, lid, latch and bolt: each a body, the lid hinged to the frame, the latch a ball on the lid, the bolt sliding in the latch. */
function chest(one: Vec3 = [0, 0, 0], two: Vec3 = [0, 0, 0]) {
  const { kit, blobs } = chainKit([
    { id: 'frame', rotation: quatFromTurn(one, 'xyz') },
    { id: 'lid', translation: [0, 0.9, 0.3], rotation: quatFromTurn(two, 'xyz') },
    { id: 'latch', translation: [0.2, 0, 0.5] },
    { id: 'bolt', translation: [0, 0.1, 0] },
  ]);
  const made = run(
    kit,
    blobs,
    ...['frame', 'lid', 'latch', 'bolt'].map((id) => callOf(makeBody, { id: `b_${id}`, parts: [id] })),
    callOf(couple, {
      id: 'hinge',
      kind: 'hinge',
      from: 'b_frame',
      to: 'b_lid',
      at: [0.25, -0.35, 0.9],
      axis: [1, 0.2, 0],
      min: -20,
      max: 110,
    }),
    callOf(couple, { id: 'ball', kind: 'ball', from: 'b_lid', to: 'b_latch', at: [0.3, 0.8, 0.7], axis: [0, 0, 1], min: null, max: 40 }),
    callOf(couple, { id: 'slide', kind: 'slider', from: 'b_bolt', to: 'b_latch', at: [0.3, 1, 0.7], axis: [0, 1, 0], min: -0.1, max: 0.3 }),
  );
  return { kit: made, blobs };
}

test('a place typed in one body’s axes and read in the other’s agrees with the product of matrices, to 1e-6', () => {
  fc.assert(
    fc.property(turn, turn, point, (one, two, typed) => {
      const { kit } = chest(one, two);
      const worlds = restWorlds(kit);
      const world = placeFromBody(kit, 'b_frame', { at: typed, axis: [0, 0, 1] });
      const read = placeInBody(kit, 'b_lid', world);
      const product = multiplyMatrices(
        invertMatrix(worlds.get('lid')!)!,
        multiplyMatrices(worlds.get('frame')!, affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], typed)),
      );
      const off = Math.max(
        ...[0, 1, 2].map((i) => Math.max(Math.abs(read.at[i] - product[12 + i]), Math.abs(read.axis[i] - product[8 + i]))),
      );
      expect(off).toBeLessThan(1e-6);
    }),
    { numRuns: 60 },
  );
});

test('couplings stay where they are in the world when pivots and axes of their bodies are set anew, or the first part goes', () => {
  const { kit, blobs } = chest([10, 20, 0], [0, 30, 5]);
  const joined = run(kit, blobs, callOf(makeBody, { id: 'both', parts: ['frame', 'lid'] }));
  expect(joined.couplings?.map(({ id }) => id)).toEqual(['slide']);
  const before = couplingInWorld(kit, kit.couplings![0]);
  const moved = run(
    kit,
    blobs,
    callOf(movePivot, { part: 'frame', to: [0.4, 1, -2] }),
    callOf(setHingeAxis, { part: 'frame', axis: 1, from: [0, 0, 0], to: [1, 2, 3] }),
  );
  const after = couplingInWorld(moved, moved.couplings![0]);
  [...before.at, ...before.axis].forEach((value, i) => expect([...after.at, ...after.axis][i]).toBeCloseTo(value, 6));
  const wide = run(
    kit,
    blobs,
    callOf(makeBody, { id: 'pair', parts: ['latch', 'bolt'] }),
    callOf(couple, { id: 'arm', kind: 'hinge', from: 'pair', to: 'b_frame', at: [1, 2, 3], axis: [0, 1, 0], min: null, max: null }),
  );
  const without = run(wide, blobs, callOf(removeParts, { parts: ['bolt'] }));
  couplingInWorld(
    without,
    without.couplings!.find(({ id }) => id === 'arm')!,
  ).at.forEach((value, i) => expect(value).toBeCloseTo(i + 1, 6));
  expect(() => checkKit(structuredClone(without))).not.toThrow();
});

test('whatever is dragged where: bodies stay rigid, the anchored one still, hinges on their line and within limits', () => {
  const { kit } = chest([0, 15, 0], [5, 0, 0]);
  const tree = assemblyTree(kit);
  expect(tree.order).toEqual(['b_frame', 'b_lid', 'b_latch', 'b_bolt']);
  fc.assert(
    fc.property(fc.constantFrom('b_lid', 'b_latch', 'b_bolt'), point, point, (body, grabbed, target) => {
      const values = dragBody(kit, {}, body, grabbed, target, 24, tree);
      const motions = bodyMotions(kit, values, tree);
      expect([...motions.get('b_frame')!]).toEqual([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
      expect(values.hinge === undefined || ((values.hinge as number) >= -20 && (values.hinge as number) <= 110)).toBe(true);
      expect(values.slide === undefined || ((values.slide as number) >= -0.1 - 1e-9 && (values.slide as number) <= 0.3 + 1e-9)).toBe(true);
      const line = couplingInWorld(kit, kit.couplings![0]);
      for (const along of [0, 0.7]) {
        const on = line.at.map((value, i) => value + along * line.axis[i]) as Vec3;
        transformPoint(motions.get('b_lid')!, on).forEach((value, i) => expect(value).toBeCloseTo(on[i], 6));
      }
      const ball = couplingInWorld(kit, kit.couplings![1]);
      const [a, b] = ['b_lid', 'b_latch'].map((id) => transformPoint(motions.get(id)!, ball.at));
      a.forEach((value, i) => expect(value).toBeCloseTo(b[i], 6));
      if (values.ball) {
        const [, , , w] = values.ball as Quat;
        expect(Number.isFinite(w)).toBe(true);
      }
      // Never further away than it was.
      const off = (p: Vec3) => Math.hypot(...p.map((value, i) => value - target[i]));
      expect(off(transformPoint(motions.get(body)!, grabbed))).toBeLessThanOrEqual(off(grabbed) + 1e-6);
    }),
    { numRuns: 60 },
  );
});

test('a lid dragged along its arc follows to the point', () => {
  const { kit } = chest();
  const line = couplingInWorld(kit, kit.couplings![0]);
  const grabbed: Vec3 = [0.5, 0.9, 1.2];
  const target = transformPoint(bodyMotions(kit, { hinge: 63 }).get('b_lid')!, grabbed);
  const values = dragBody(kit, {}, 'b_lid', grabbed, target);
  expect(values.hinge).toBeCloseTo(63, 4);
  expect(Math.hypot(...line.axis)).toBeCloseTo(1, 9);
});

test('posed parts stand where their bodies went; parts in no body go with what carries them', () => {
  const { kit, blobs } = chest();
  const loose: Kit = {
    ...kit,
    bodies: kit.bodies!.filter(({ id }) => id !== 'b_bolt'),
    couplings: kit.couplings!.filter(({ id }) => id !== 'slide'),
  };
  const poser = new Poser(flattenParts(loose));
  poseAssembly(loose, poser, { hinge: 50 });
  const motion = bodyMotions(loose, { hinge: 50 });
  const rest = restWorlds(loose);
  for (const [part, body] of [
    ['lid', 'b_lid'],
    ['latch', 'b_latch'],
    ['bolt', 'b_latch'],
  ] as const) {
    const wanted = multiplyMatrices(motion.get(body)!, rest.get(part)!);
    poser.worldOf(part).forEach((value, i) => expect(value).toBeCloseTo(wanted[i], 6));
  }
  expect(worldVertices(loose, blobs).length).toBeGreaterThan(0);
});

test('rings, bodies that nobody holds, what touches and what is of one step are found', () => {
  const { kit, blobs } = chest();
  const ring = run(
    kit,
    blobs,
    callOf(couple, { id: 'ring', kind: 'hinge', from: 'b_frame', to: 'b_bolt', at: [0, 0, 0], axis: [1, 0, 0], min: null, max: null }),
  );
  expect(assemblyTree(ring).loops).toHaveLength(1);
  const other = run(kit, blobs, callOf(anchorBody, { body: 'b_bolt' }));
  expect(assemblyTree(other).order[0]).toBe('b_bolt');
  expect(assemblyTree({ ...kit, couplings: [] }).loose).toEqual(['b_lid', 'b_latch', 'b_bolt']);
  expect(() =>
    run(
      kit,
      blobs,
      callOf(couple, { id: 'x', kind: 'hinge', from: 'b_frame', to: 'b_lid', at: [0, 0, 0], axis: [0, 0, 0], min: null, max: null }),
    ),
  ).toThrow(/no direction/);
  expect(() =>
    run(
      kit,
      blobs,
      callOf(couple, { id: 'x', kind: 'hinge', from: 'b_frame', to: 'b_lid', at: [0, 0, 0], axis: [1, 0, 0], min: 10, max: 20 }),
    ),
  ).toThrow(/wrong way round/);
  const snapped = run(kit, blobs, callOf(snapCouplings, { couplings: ['hinge'], stepMetres: 0.02 }));
  snapped.couplings![0].at.forEach((value) => expect(value / 0.02).toBeCloseTo(Math.round(value / 0.02), 6));
  const groups = touching(kit, ['frame', 'lid', 'latch', 'bolt'], 0.001, blobs).map((group) => [...group].sort().join());
  const gathered = run(kit, blobs, callOf(gatherBodies, { parts: ['frame', 'lid', 'latch', 'bolt'], by: 'touch' }));
  expect(gathered.bodies!.map(({ parts }) => [...parts].sort().join()).sort()).toEqual([...groups].sort());
  expect(gathered.bodies!.filter(({ anchored }) => anchored)).toHaveLength(1);
});

test('a coupling that is to stand on whole steps does, in the axes of the body that holds it, wherever it was placed', () => {
  fc.assert(
    fc.property(turn, point, fc.constantFrom(0.01, 0.25, 1), (one, at, stepMetres) => {
      const { kit, blobs } = chest(one);
      const hinge = { id: 'hinge', kind: 'hinge', from: 'b_frame', to: 'b_lid', axis: [0, 0, 1], min: 0, max: 90 } as const;
      const next = run(kit, blobs, callOf(couple, { ...hinge, axis: [0, 0, 1], at, stepMetres }));
      const [made] = next.couplings!.filter(({ id }) => id === 'hinge');
      made.at.forEach((value) => expect(Math.abs(value / stepMetres - Math.round(value / stepMetres))).toBeLessThan(1e-6));
      const moved = couplingInWorld(next, made).at.map((value, i) => value - at[i]);
      expect(Math.hypot(...moved)).toBeLessThanOrEqual((Math.sqrt(3) * stepMetres) / 2 + 1e-9);
    }),
    { numRuns: 40 },
  );
});

test('a body that is said to move is no anchor; the next one is, unless it moves too', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }, { id: 'c' }]);
  const made = run(
    kit,
    blobs,
    callOf(makeBody, { id: 'jib', parts: ['a'], anchored: false }),
    callOf(makeBody, { id: 'foot', parts: ['b'] }),
    callOf(makeBody, { id: 'hook', parts: ['c'], anchored: true }),
  );
  expect(made.bodies!.map(({ id, anchored }) => [id, anchored])).toEqual([
    ['jib', false],
    ['foot', true],
    ['hook', false],
  ]);
});
