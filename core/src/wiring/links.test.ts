import fc from 'fast-check';
import { Euler, Quaternion } from 'three';
import { callOf, MemoryBlobs, putArray, emptyKit, newPart, type Id, type Kit, type Link, type Quat, type Vec3 } from '../document';
import { quatFromTurn, transformPoint } from '../geometry';
import { plainPose } from '../oracles';
import { run } from '../tests/helpers';
import { addBinding, neutralRow, setBindingRow } from './binding-operations';
import { setDerived } from './derived-operations';
import { evaluateBinding } from './evaluate-binding';
import { isSettled, partedAt, spanOfTables, tablesOf, worstGap } from './link-gaps';
import { addLink, removeLinks, renewLinks, unsettledBy } from './link-operations';
import { proposeLink } from './link-proposal';
import { LINK_DEGREES, LINK_METRES } from './solve-link';

const blobs = new MemoryBlobs();
const MIN = -20;
const MAX = 30;

interface Part {
  id: Id;
  parent: Id | null;
  at: Vec3;
  rotation?: Quat;
  scale?: Vec3;
}

function kitOf(parts: readonly Part[]): Kit {
  const kit = emptyKit('Links');
  for (const { id, parent, at, rotation, scale } of parts)
    kit.parts[id] = newPart({ id, name: id, parent, translation: at, ...(rotation && { rotation }), ...(scale && { scale }) });
  return kit;
}

const moves = (part: Id, at: (share: number) => { turn?: Vec3; offset?: Vec3 }) =>
  callOf(addBinding, {
    part,
    variable: 'jib',
    index: null,
    outside: 'clamp',
    rows: [0, MIN, MAX].map((value) => ({ ...neutralRow(value), ...at(value / MAX) })),
  });

const linkOf = (fields: Partial<Link> & Pick<Link, 'kind' | 'parts'>) =>
  callOf(addLink, {
    id: 'link',
    axes: fields.parts.map(() => 2 as const),
    at: null,
    on: null,
    variable: 'jib',
    index: null,
    min: MIN,
    max: MAX,
    neutral: 0,
    ...fields,
  });

/** Places of all parts at a value, by a poser that knows nothing of the solver: tables written into the rest of a copy. */
function worldsAt(kit: Kit, value: number): Map<Id, number[]> {
  const copy = structuredClone(kit);
  for (const binding of Object.values(kit.bindings)) {
    const part = copy.parts[binding.part];
    const { offset, turn } = evaluateBinding(binding, value);
    const [x, y, z] = turn.map((degrees) => (degrees * Math.PI) / 180);
    part.translation = part.translation.map((at, axis) => at + offset[axis]) as Vec3;
    part.rotation = new Quaternion(...part.rotation).multiply(new Quaternion().setFromEuler(new Euler(x, y, z))).toArray();
  }
  return new Map([...plainPose(copy, blobs, null, 0).worlds].map(([id, world]) => [id, world.elements]));
}

const distance = (a: Vec3, b: Vec3) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** A crank that turns on a base, an arm on its end, a stay on the base. */
function fourBar(arm: Vec3, stay: Vec3, degrees: number, base: Partial<Part> = {}, armTurn = 0): Kit {
  const kit = kitOf([
    { id: 'base', parent: null, at: [0, 0, 0], ...base },
    { id: 'crank', parent: 'base', at: [0, 0, 0] },
    { id: 'arm', parent: 'crank', at: arm, rotation: quatFromTurn([0, 0, armTurn], 'xyz') },
    { id: 'stay', parent: 'base', at: stay },
  ]);
  return run(
    kit,
    blobs,
    moves('crank', (share) => ({ turn: [0, 0, share * degrees] })),
  );
}

test('in a parallelogram the arm keeps its way, and the stay goes along with the crank', () => {
  const kit = run(fourBar([0, 2, 0], [3, 0, 0], 60), blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [3, 0, 0] }));
  const [arm, stay] = tablesOf(kit, kit.links![0]);
  for (const value of [MIN, -7.3, 0, 4, 17.17, MAX]) {
    const crank = (value / MAX) * 60;
    expect(evaluateBinding(arm!, value).turn[2]).toBeCloseTo(-crank, 6);
    expect(evaluateBinding(stay!, value).turn[2]).toBeCloseTo(crank, 6);
  }
  // Straight all the way: the ends and neutral are enough.
  expect(arm!.rows.map(({ value }) => value)).toEqual([0, MIN, MAX]);
  expect(kit.parts.arm.role).toBe('driven');
});

test('two that aim at one another turn by the arc tangent of how far the one has gone', () => {
  const kit = run(
    kitOf([
      { id: 'sleeve', parent: null, at: [0, 0, 0] },
      { id: 'block', parent: null, at: [2, 0, 0] },
      { id: 'rod', parent: 'block', at: [0, 0, 0] },
    ]),
    blobs,
    moves('block', (share) => ({ offset: [0, share * 1.5, 0] })),
    linkOf({ kind: 'aim', parts: ['sleeve', 'rod'] }),
  );
  for (const value of [MIN, -11, 3, 12.5, MAX]) {
    const wanted = (Math.atan2((value / MAX) * 1.5, 2) * 180) / Math.PI;
    for (const binding of tablesOf(kit, kit.links![0]))
      expect(Math.abs(evaluateBinding(binding!, value).turn[2] - wanted)).toBeLessThan(0.05);
  }
  expect(worstGap(kit, kit.links![0])!.metres).toBeLessThan(LINK_METRES);
});

test('a wheel rolls by the way over its radius, more than a round, and straight ways need no rows between', () => {
  const trolley: Part[] = [
    { id: 'trolley', parent: null, at: [0, 1, 0] },
    { id: 'wheel', parent: 'trolley', at: [0.3, -0.75, 0] },
  ];
  const kit = run(
    kitOf(trolley),
    blobs,
    moves('trolley', (share) => ({ offset: [0, 0, 2 * share] })),
    linkOf({ kind: 'roll', parts: ['wheel'], axes: [0], at: [0, -0.25, 0] }),
  );
  const [wheel] = tablesOf(kit, kit.links![0]);
  // About +x, which is its left, forward goes the right-handed way: the topmost point goes forward.
  expect(evaluateBinding(wheel!, MAX).turn[0]).toBeCloseTo((2 / 0.25) * (180 / Math.PI), 6);
  expect(wheel!.rows).toHaveLength(3);
  const there = worldsAt(kit, 0.001).get('wheel')!;
  expect(transformPoint(there, [0, 0.25, 0])[2]).toBeGreaterThan(there[14]);
});

const metre = fc.double({ min: -1, max: 1, noNaN: true });
const machine = fc.record({
  arm: fc.tuple(metre, metre, metre),
  stay: fc.tuple(metre, metre, metre),
  joint: fc.tuple(metre, metre, fc.constant(0)),
  degrees: fc.double({ min: -70, max: 70, noNaN: true }).filter((value) => Math.abs(value) > 5),
  turn: fc.tuple(...[0, 0, 0].map(() => fc.double({ min: -180, max: 180, noNaN: true }))),
  scale: fc.double({ min: 0.2, max: 4, noNaN: true }),
  mirrored: fc.boolean(),
  armTurn: fc.double({ min: -180, max: 180, noNaN: true }),
});

test('links meet within the tolerance wherever they reach, however they stand, and end where they do not', () => {
  let cut = 0;
  fc.assert(
    fc.property(machine, fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 5, maxLength: 12 }), (one, shares) => {
      const { arm, stay, joint, scale } = one;
      fc.pre(Math.hypot(joint[0], joint[1]) > 0.05 && Math.hypot(arm[0], arm[1]) > 0.05);
      fc.pre(Math.hypot(arm[0] - stay[0], arm[1] - stay[1]) > 0.05);
      const before = fourBar(
        arm,
        stay,
        one.degrees,
        { at: [3, -1, 2], rotation: quatFromTurn(one.turn, 'xyz'), scale: [one.mirrored ? -scale : scale, scale, scale] },
        one.armTurn,
      );
      const rest = worldsAt(before, 0);
      const met = transformPoint(rest.get('arm')!, joint);
      // Nor does one that lies on the stay's.
      fc.pre(distance(met, transformPoint(rest.get('stay')!, [0, 0, arm[2] - stay[2]])) > 0.05 * scale);
      // An end on the crank's own axis stays where it is.
      fc.pre(distance(met, transformPoint(rest.get('crank')!, [0, 0, arm[2]])) > 0.05 * scale);
      const kit = run(before, blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: joint }));
      const link = kit.links![0];
      const { from, to } = spanOfTables(kit, link);
      // The other end of the second link, found at rest by plain arithmetic: no rotation of its own, the base's scale.
      const base = rest.get('stay')!;
      const own = [0, 1, 2].map((axis) => {
        const column = [base[4 * axis], base[4 * axis + 1], base[4 * axis + 2]];
        const to_ = met.map((value, i) => value - base[12 + i]);
        return column.reduce((sum, value, i) => sum + value * to_[i], 0) / column.reduce((sum, value) => sum + value * value, 0);
      }) as Vec3;
      for (const share of [0, ...shares, 1]) {
        const worlds = worldsAt(kit, from + share * (to - from));
        expect(distance(transformPoint(worlds.get('arm')!, joint), transformPoint(worlds.get('stay')!, own))).toBeLessThanOrEqual(
          LINK_METRES,
        );
      }
      expect(isSettled(kit, link)).toBe(true);
      for (const binding of tablesOf(kit, link)) expect(evaluateBinding(binding!, 0).turn).toEqual([0, 0, 0]);
      if (from > MIN || to < MAX) cut++;
    }),
    { numRuns: 40, endOnFailure: true },
  );
  expect(cut).toBeGreaterThan(0);
});

test('where two links no longer reach one another their tables end at the very value', () => {
  // Pivots stand √(1 + 4 − 4·cos) apart as the crank of 1 m turns against a stay 2 m away; arm and stay together are 2.1 m long.
  const kit = run(fourBar([1, 0, 0], [2, 0, 0], 180), blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [0.5, 0.75, 0] }));
  const reach = Math.hypot(0.5, 0.75) + Math.hypot(0.5, 0.75);
  const degrees = (Math.acos((1 + 4 - reach * reach) / 4) * 180) / Math.PI;
  const { from, to } = spanOfTables(kit, kit.links![0]);
  expect(to).toBeCloseTo((degrees / 180) * MAX, 6);
  expect(from).toBeCloseTo((-degrees / 180) * MAX, 6);
});

describe('links that can’t be', () => {
  const kit = fourBar([0, 2, 0], [3, 0, 0], 60);
  const refused: [string, Kit, ReturnType<typeof linkOf>, RegExp][] = [
    ['askew axes', kit, linkOf({ kind: 'meet', parts: ['arm', 'stay'], axes: [2, 0], at: [3, 0, 0] }), /“arm” and “stay” turn about axes that stand 90\.0°/],
    ['an end on its axis', kit, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [0, 0, 1] }), /the line that “arm” turns about/],
    ['nothing moves', kitOf([{ id: 'arm', parent: null, at: [0, 0, 0] }, { id: 'stay', parent: null, at: [2, 0, 0] }]), linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [1, 1, 0] }), /Nothing that jib moves/],
    ['a part that is driven', run(kit, blobs, callOf(addBinding, { part: 'stay', variable: 'hoist', index: null, outside: 'clamp', rows: [neutralRow(0)] })), linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [3, 0, 0] }), /“stay” follows hoist already/],
    ['one that carries the other', kit, linkOf({ kind: 'meet', parts: ['crank', 'arm'], at: [1, 1, 0] }), /“crank” carries “arm”/],
    ['one that rolls on itself', kit, linkOf({ kind: 'roll', parts: ['arm'], at: [1, 1, 0], on: 'arm' }), /can’t roll on itself/],
    ['two that turn about one line', fourBar([0, 2, 0], [0, 2, 0.3], 40), linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [1, 0, 0] }), /turn about one and the same line at rest/],
    ['two that roll', kit, linkOf({ kind: 'roll', parts: ['arm', 'stay'], at: [0, 1, 0] }), /One part rolls at a time/],
  ]; // prettier-ignore
  test.each(refused)('%s', (_, before, call, why) => expect(() => run(before, blobs, call)).toThrow(why));
});

test('a link follows when a pivot above it moves, and leaves alone what was changed by hand', () => {
  const linked = run(fourBar([0, 2, 0], [3, 0, 0.5], 60), blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [2.5, 0.4, 0] }));
  expect(isSettled(linked, linked.links![0])).toBe(true);
  const moved = run(linked, blobs, { operation: 'shape.move-pivot', args: { part: 'crank', to: [0.2, -0.3, 0] } });
  expect(isSettled(moved, moved.links![0])).toBe(false);
  expect(unsettledBy(linked, moved)).toEqual(['link']);
  const renewed = run(moved, blobs, callOf(renewLinks, { links: ['link'] }));
  expect(isSettled(renewed, renewed.links![0])).toBe(true);
  expect(Object.keys(renewed.bindings).sort()).toEqual(Object.keys(linked.bindings).sort());

  const [arm] = tablesOf(linked, linked.links![0]);
  const byHand = run(linked, blobs, callOf(setBindingRow, { binding: arm!.id, row: { ...neutralRow(10), turn: [0, 0, 44] } }));
  expect(isSettled(byHand, byHand.links![0])).toBe(false);
  expect(unsettledBy(linked, byHand)).toEqual([]);

  const free = run(linked, blobs, callOf(removeLinks, { links: ['link'] }));
  expect(free.links).toBeUndefined();
  expect(free.bindings).toEqual(linked.bindings);
});

test('a link follows what is worked out of its variable, whatever else that looks at standing at neutral', () => {
  const own = (name: string, expression: string) => callOf(setDerived, { name, expression, unit: 'deg', min: -90, max: 90, neutral: 0 });
  const bound = (part: Id, variable: string, rows: [value: number, degrees: number][]) =>
    callOf(addBinding, {
      part,
      variable,
      index: null,
      outside: 'clamp',
      rows: rows.map(([value, degrees]) => ({ ...neutralRow(value), turn: [0, 0, degrees] as Vec3 })),
    });
  const bar = kitOf([
    { id: 'base', parent: null, at: [0, 0, 0] },
    { id: 'mast', parent: 'base', at: [9, 0, 0] },
    { id: 'crank', parent: 'base', at: [0, 0, 0] },
    { id: 'arm', parent: 'crank', at: [0, 2, 0] },
    { id: 'stay', parent: 'base', at: [3, 0, 0] },
  ]);
  // The tide stands at 5 where it is at rest, as the mast's table says.
  const kit = [
    bound('mast', 'tide', [
      [5, 0],
      [9, 30],
    ]),
    own('bent', 'jib * jib / 30 + tide - 5'),
    own('swing', 'bent * 2'),
    bound('crank', 'swing', [
      [0, 0],
      [-90, -90],
      [90, 90],
    ]),
  ].reduce((made, call) => run(made, blobs, call), bar);
  const linked = run(kit, blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [3, 0, 0] }));
  const [arm, stay] = tablesOf(linked, linked.links![0]);
  for (const value of [MIN, -7.3, 0, 4, 17.17, MAX]) {
    const crank = (2 * value * value) / 30;
    expect(Math.abs(evaluateBinding(arm!, value).turn[2] + crank)).toBeLessThan(LINK_DEGREES);
    expect(Math.abs(evaluateBinding(stay!, value).turn[2] - crank)).toBeLessThan(LINK_DEGREES);
  }
  expect(isSettled(linked, linked.links![0])).toBe(true);
  // Worked out otherwise, the link has to be worked out anew, too.
  const { id } = linked.derived!.find(({ name }) => name === 'bent')!;
  const other = run(linked, blobs, callOf(setDerived, { ...linked.derived!.find((one) => one.id === id)!, expression: 'jib / 2' }));
  expect(unsettledBy(linked, other)).toEqual(['link']);
  const renewed = run(other, blobs, callOf(renewLinks, { links: ['link'] }));
  expect(evaluateBinding(tablesOf(renewed, renewed.links![0])[1]!, 17.17).turn[2]).toBeCloseTo(17.17, 6);
});

/** A box between two corners, in the axes of a part. */
function putBox(kit: Kit, part: Id, min: Vec3, max: Vec3): void {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [0, 1, 2].map((axis) => ((i >> axis) & 1 ? max : min)[axis]));
  const attributes = { POSITION: putArray(blobs, Float32Array.from(corners), 3) };
  const indices = putArray(blobs, Uint32Array.from([0, 1, 2, 1, 3, 2, 4, 5, 6, 5, 7, 6]), 1);
  kit.meshes[part] = { id: part, name: part, primitives: [{ material: null, attributes, indices }] };
  kit.parts[part].mesh = part;
}

test('what links two bars is read off where they touch and what carries them; a wheel is measured', () => {
  const kit = structuredClone(fourBar([0, 2, 0], [3, 0, 0], 40, { rotation: quatFromTurn([0, 90, 0], 'xyz') }));
  putBox(kit, 'arm', [-0.1, -0.1, -0.1], [1.6, 0.1, 0.1]);
  putBox(kit, 'stay', [-1.6, 1.9, -0.1], [0.1, 2.1, 0.1]);
  const proposed = proposeLink(kit, blobs, 'meet', ['arm', 'stay'])!;
  expect(proposed).toMatchObject({ variable: 'jib', index: null, axes: [2, 2] });
  [1.5, 0, 0].forEach((value, axis) => expect(proposed.at![axis]).toBeCloseTo(value, 5));
  const made = run(kit, blobs, callOf(addLink, { ...proposed, min: MIN, max: MAX, neutral: 0 }));
  expect(isSettled(made, made.links![0])).toBe(true);

  const trolley = kitOf([
    { id: 'trolley', parent: null, at: [0, 1, 0] },
    { id: 'wheel', parent: 'trolley', at: [0, -0.5, 0] },
  ]);
  putBox(trolley, 'wheel', [-0.05, -0.3, -0.4], [0.05, 0.3, 0.4]);
  const driven = run(
    trolley,
    blobs,
    moves('trolley', (share) => ({ offset: [0, 0, share] })),
  );
  expect(proposeLink(driven, blobs, 'roll', ['wheel'])).toMatchObject({ axes: [0], at: [0, expect.closeTo(-0.5, 5), 0] });
  expect(proposeLink(trolley, blobs, 'roll', ['wheel'])).toBeNull();
});

test('a rod that leaves its sleeve is named at the value where they are furthest apart', () => {
  const cylinder = (rodLength: number) => {
    const kit = kitOf([
      { id: 'sleeve', parent: null, at: [0, 0, 0] },
      { id: 'block', parent: null, at: [2, 0, 0] },
      { id: 'rod', parent: 'block', at: [0, 0, 0] },
    ]);
    putBox(kit, 'sleeve', [0, -0.1, -0.1], [1.2, 0.1, 0.1]);
    putBox(kit, 'rod', [-rodLength, -0.05, -0.05], [0, 0.05, 0.05]);
    const slid = moves('block', (share) => ({ offset: [share, 0.3 * share, 0] }));
    const made = run(kit, blobs, slid, linkOf({ kind: 'aim', parts: ['sleeve', 'rod'] }));
    return partedAt(made, blobs, made.links![0]);
  };
  // From sleeve to block it is √(3² + 0.3²) m where the block has gone furthest.
  expect(cylinder(1.9)).toBeNull();
  expect(cylinder(1.5)).toEqual({ value: MAX, metres: expect.closeTo(Math.hypot(3, 0.3) - 1.2 - 1.5, 6) as number });
  // One that does not reach in at rest is no rod in a sleeve.
  expect(cylinder(0.5)).toBeNull();
});

test('a pinion rolls on a rack that goes up beside it, the way that its rim goes along with the rack', () => {
  const kit = kitOf([
    { id: 'frame', parent: null, at: [0, 0, 0] },
    { id: 'rack', parent: 'frame', at: [0, 1, 0.4] },
    { id: 'pinion', parent: 'frame', at: [0, 1, 0] },
  ]);
  const rolling = linkOf({ kind: 'roll', parts: ['pinion'], axes: [0], at: [0, 0, 0.25], on: 'rack' });
  const made = run(
    kit,
    blobs,
    moves('rack', (share) => ({ offset: [0, share, 0] })),
    rolling,
  );
  const [pinion] = tablesOf(made, made.links![0]);
  // Where it touches, ahead of it, the rim has to go up: about +x that is the left-handed way.
  expect(evaluateBinding(pinion!, MAX).turn[0]).toBeCloseTo((-1 / 0.25) * (180 / Math.PI), 6);
  const there = transformPoint(worldsAt(made, 0.3).get('pinion')!, [0, 0, 0.25]);
  const rack = worldsAt(made, 0.3).get('rack')!;
  expect(there[1] - 1).toBeCloseTo(rack[13] - 1, 4);
});

test('where both pivots come to stand at one place the links do not leap over to another side', () => {
  // The crank's end passes through the pivot of the stay as it turns by 90°, which is at 15.
  const made = run(fourBar([1, 0, 0], [0, 1, 0], 180), blobs, linkOf({ kind: 'meet', parts: ['arm', 'stay'], at: [0, 1, 0] }));
  expect(spanOfTables(made, made.links![0]).to).toBeCloseTo(15, 4);
  for (const binding of tablesOf(made, made.links![0])) {
    const rows = [...binding!.rows].sort((a, b) => a.value - b.value);
    rows.slice(1).forEach((row, i) => expect(Math.abs(row.turn[2] - rows[i].turn[2])).toBeLessThan(91));
  }
  expect(isSettled(made, made.links![0])).toBe(true);
});
