import fc from 'fast-check';
import { Euler, Matrix4, Quaternion, Vector3 } from 'three';
import { callOf, MemoryBlobs, newPart, putArray, emptyKit, type Id, type Kit, type Quat, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';
import { plainPose } from '../oracles';
import { run } from '../tests/helpers';
import { addBinding, neutralRow } from './binding-operations';
import { DRIVE_METRES, evenShares, mirroredStops, type ChainDrive } from './chain-drive';
import { driveChain } from './drive-operations';
import { evaluateBinding } from './evaluate-binding';

const blobs = new MemoryBlobs();
const RADIANS = Math.PI / 180;

/** A box from its low corner to its high one, own axes, the pivot at the origin. */
function putBox(kit: Kit, id: Id, low: Vec3, high: Vec3): Id {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((corner) => [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? high : low)[axis]));
  kit.meshes[id] = {
    id,
    name: id,
    primitives: [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from(corners), 3) },
        indices: putArray(blobs, Uint32Array.from([0, 1, 2, 1, 3, 2, 4, 6, 5, 5, 6, 7]), 1),
      },
    ],
  };
  return id;
}

/** Three lengths of a neck on a trunk: 0.4 wide, 0.2 deep to the front and 0.1 to the back, each 0.5 high. */
function neckKit(fields: Partial<Kit['parts'][string]> = {}): Kit {
  const kit = emptyKit('Neck');
  kit.parts.trunk = newPart({ id: 'trunk', name: 'trunk', parent: null, ...fields });
  ['low', 'middle', 'top'].forEach((id, i) => {
    const mesh = putBox(kit, id, [-0.2, 0, -0.1], [0.2, 0.5, 0.2]);
    const translation: Vec3 = [0, i === 0 ? 1 : 0.5, 0];
    kit.parts[id] = newPart({ id, name: id, parent: i === 0 ? 'trunk' : ['low', 'middle'][i - 1], translation, mesh });
  });
  return kit;
}

const drive = (fields: Partial<ChainDrive & { variable: string }> = {}) =>
  callOf(driveChain, {
    parts: ['low', 'middle', 'top'],
    variable: 'nod',
    index: null,
    axis: 0,
    shares: evenShares(3),
    stops: [
      { value: -1, degrees: -60 },
      { value: 1, degrees: 90 },
    ],
    neutral: 0,
    hinge: 'pivot',
    closed: false,
    ...fields,
  });

/** Worlds at values of variables, by a poser that knows nothing of tables: they are written into the rest of a copy. */
function worldsAt(kit: Kit, values: Record<string, number>): Map<Id, Matrix4> {
  const copy = structuredClone(kit);
  for (const part of Object.values(copy.parts)) {
    const turn: Vec3 = [0, 0, 0];
    for (const binding of Object.values(kit.bindings).filter((one) => one.part === part.id)) {
      const pose = evaluateBinding(binding, values[binding.variable] ?? 0);
      part.translation = part.translation.map((at, axis) => at + pose.offset[axis]) as Vec3;
      pose.turn.forEach((degrees, axis) => (turn[axis] += degrees * RADIANS));
    }
    const order = part.turnOrder.toUpperCase() as 'XYZ';
    part.rotation = new Quaternion(...part.rotation).multiply(new Quaternion().setFromEuler(new Euler(...turn, order))).toArray();
  }
  return new Map([...plainPose(copy, blobs, null, 0).worlds].map(([id, world]) => [id, new Matrix4().fromArray([...world.elements])]));
}

const at = (world: Matrix4, place: Vec3) => new Vector3(...place).applyMatrix4(world);
const rowsOf = (kit: Kit, part: Id) => Object.values(kit.bindings).find((one) => one.part === part)!.rows;
const inFrame = (frame: Matrix4, place: Vector3) => place.clone().applyMatrix4(frame.clone().invert());

test('each of a chain takes its share, straight to every stop, and neutral is rest to the bit', () => {
  const kit = run(neckKit(), blobs, drive({ shares: [0.5, 0.3, 0.2] }));
  expect(rowsOf(kit, 'low')).toEqual([neutralRow(0), { ...neutralRow(-1), turn: [-30, 0, 0] }, { ...neutralRow(1), turn: [45, 0, 0] }]);
  expect(rowsOf(kit, 'top').map(({ turn }) => turn[0])).toEqual([0, -12, 18]);
  const up = at(worldsAt(kit, { nod: 1 }).get('top')!, [0, 1, 0]).sub(at(worldsAt(kit, { nod: 1 }).get('top')!, [0, 0, 0]));
  expect(up.distanceTo(new Vector3(0, 0, 1))).toBeLessThan(1e-9);
  expect(['low', 'middle', 'top'].map((id) => kit.parts[id].role)).toEqual(['driven', 'driven', 'driven']);
});

test('in-between stops bend the way there, and stops of one side are mirrored to the other within the range', () => {
  const stops = [
    { value: 0.5, degrees: 10 },
    { value: 1, degrees: 90 },
  ];
  expect(mirroredStops(stops, 0, { min: -0.8, max: 1 })).toEqual([{ value: -0.5, degrees: -10 }, ...stops]);
  const kit = run(neckKit(), blobs, drive({ stops: mirroredStops(stops, 0, { min: -1, max: 1 }) }));
  expect(rowsOf(kit, 'low').map(({ value, turn }) => [value, Math.round(1e6 * turn[0]) / 1e6])).toEqual([
    [0, 0],
    [-1, -30],
    [-0.5, -3.333333],
    [0.5, 3.333333],
    [1, 30],
  ]);
});

test.each(['inner', 'outer'] as const)('bent about the %s edge of its foot, that edge stays on what carries it', (hinge) => {
  const kit = run(neckKit(), blobs, drive({ hinge }));
  const rest = worldsAt(neckKit(), {});
  for (const nod of [-1, -0.37, 0, 0.2, 0.61, 1]) {
    const worlds = worldsAt(kit, { nod });
    for (const [part, below] of [
      ['low', 'trunk'],
      ['middle', 'low'],
      ['top', 'middle'],
    ]) {
      // Leaning forward (+z for a turn about x the right-handed way) the front edge is the inner one.
      const edge: Vec3 = [0.1, 0, nod > 0 === (hinge === 'inner') ? 0.2 : -0.1];
      const before = inFrame(rest.get(below)!, at(rest.get(part)!, edge));
      const after = inFrame(worlds.get(below)!, at(worlds.get(part)!, edge));
      expect(before.distanceTo(after)).toBeLessThan(nod === 0 ? 1e-12 : 1.01 * DRIVE_METRES);
    }
  }
});

test('with gaps closed nothing of a foot stands over what carries it, and something of it stands on it', () => {
  for (const hinge of ['pivot', 'inner', 'outer'] as const) {
    const kit = run(neckKit(), blobs, drive({ hinge, closed: true }));
    for (const nod of [-1, -0.5, 0.31, 1]) {
      const worlds = worldsAt(kit, { nod });
      const heights = [0.2, -0.1].map((z) => inFrame(worlds.get('low')!, at(worlds.get('middle')!, [0, 0, z])).y - 0.5);
      expect(Math.max(...heights)).toBeLessThan(1.01 * DRIVE_METRES);
      expect(Math.max(...heights)).toBeGreaterThan(-1.01 * DRIVE_METRES);
    }
  }
  // About its own pivot and open, the back of the foot stands over it by its depth times the sine.
  const open = worldsAt(run(neckKit(), blobs, drive()), { nod: 1 });
  const back = inFrame(open.get('low')!, at(open.get('middle')!, [0, 0, -0.1])).y - 0.5;
  expect(back).toBeCloseTo(0.1 * Math.sin(30 * RADIANS), 9);
});

test('property: however the chain lies, its last part is turned by the whole angle about the kit’s axis, and edges hold', () => {
  const square: Quat[] = ['xyz', 'zyx'].flatMap((order) =>
    [
      [0, 0, 0],
      [90, 0, 0],
      [0, 90, 0],
      [180, 0, 90],
    ].map((turn) => quatFromTurn(turn, order as 'xyz')),
  );
  const chain = fc.record({
    base: fc.constantFrom(...square),
    mirrored: fc.boolean(),
    turns: fc.array(fc.constantFrom(...square), { minLength: 3, maxLength: 3 }),
    shares: fc.array(fc.double({ min: 0.05, max: 1, noNaN: true }), { minLength: 3, maxLength: 3 }),
    degrees: fc.double({ min: -170, max: 170, noNaN: true }).filter((degrees) => Math.abs(degrees) > 1),
    axis: fc.constantFrom(0, 1, 2),
    hinge: fc.constantFrom('pivot', 'inner', 'outer'),
    value: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  fc.assert(
    fc.property(chain, ({ base, mirrored, turns, shares, degrees, axis, hinge, value }) => {
      const kit = neckKit({ rotation: base, scale: mirrored ? [-1, 1, 1] : [1, 1, 1] });
      ['low', 'middle', 'top'].forEach((id, i) => (kit.parts[id].rotation = turns[i]));
      const sum = shares.reduce((a, b) => a + b, 0);
      const args = {
        axis: axis as 0 | 1 | 2,
        hinge: hinge as 'pivot',
        shares: shares.map((one) => one / sum),
        stops: [{ value: 1, degrees }],
      };
      const made = run(kit, blobs, drive(args));
      const [rest, now] = [worldsAt(kit, {}), worldsAt(made, { nod: value })];
      const about = new Vector3(...[0, 1, 2].map((i) => Number(i === axis)));
      const turn = new Matrix4().makeRotationAxis(about, degrees * value * RADIANS);
      for (const way of [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)]) {
        const wanted = way.clone().transformDirection(rest.get('top')!).transformDirection(turn);
        expect(way.clone().transformDirection(now.get('top')!).distanceTo(wanted)).toBeLessThan(1e-6);
      }
      // About its pivot nothing slides; about an edge some line of its foot is where it was, as what carries it sees it.
      if (hinge === 'pivot') expect(rowsOf(made, 'middle').every(({ offset }) => Math.hypot(...offset) < 1e-12)).toBe(true);
      else {
        const moved = [0, 1, 2, 3, 4, 5, 6, 7].map((corner) => {
          const place: Vec3 = [corner & 1 ? 0.2 : -0.2, corner & 2 ? 0.5 : 0, corner & 4 ? 0.2 : -0.1];
          const seen = (worlds: Map<Id, Matrix4>) => inFrame(worlds.get('low')!, at(worlds.get('middle')!, place));
          return seen(rest).distanceTo(seen(now));
        });
        expect(moved.sort((a, b) => a - b)[1]).toBeLessThan(1.01 * DRIVE_METRES);
      }
    }),
    { numRuns: 80, endOnFailure: true },
  );
});

const turnAbout = (part: Id, axis: number) =>
  callOf(addBinding, {
    part,
    variable: 'look',
    index: null,
    outside: 'clamp',
    rows: [neutralRow(0), { ...neutralRow(1), turn: [0, 1, 2].map((i) => (i === axis ? 50 : 0)) as Vec3 }],
  });

test('two drives of one chain add up where the one that slides is the outer turn, and are refused where they would not', () => {
  const kit = run(neckKit(), blobs, drive({ hinge: 'inner' }), turnAbout('top', 1));
  const worlds = worldsAt(kit, { nod: 0.8, look: 1 });
  const edge = (one: Map<Id, Matrix4>) => inFrame(one.get('middle')!, at(one.get('top')!, [0, 0, 0]));
  // The pivot goes where the nod alone brings it: looking aside turns the head within that.
  expect(edge(worlds).distanceTo(edge(worldsAt(kit, { nod: 0.8 })))).toBeLessThan(1e-12);
  expect(() => run(neckKit(), blobs, turnAbout('top', 0), drive())).toThrow(/“top” follows look already/);
  const otherOrder = neckKit();
  otherOrder.parts.top.turnOrder = 'yxz';
  expect(() => run(otherOrder, blobs, turnAbout('top', 1), drive({ hinge: 'outer' }))).toThrow(/would not add up/);
  expect(() => run(otherOrder, blobs, turnAbout('top', 1), drive())).not.toThrow();
});

test('what is no chain, lies askew, shows nothing or moves nothing is refused in a sentence', () => {
  const askew = neckKit();
  askew.parts.middle.rotation = quatFromTurn([0, 0, 30], 'xyz');
  expect(() => run(askew, blobs, drive())).toThrow(/No own axis of “middle” lies along x: the nearest stands 30.0° askew/);
  expect(() => run(neckKit(), blobs, drive({ parts: ['low', 'top', 'middle'] }))).toThrow(/“middle” does not hang below “top”/);
  expect(() => run(neckKit(), blobs, drive({ parts: ['trunk', 'low', 'top'], hinge: 'inner' }))).toThrow(/“trunk” shows nothing/);
  expect(() => run(neckKit(), blobs, drive({ shares: [0.5, 0.3, 0.3] }))).toThrow(/come to 110.0 %/);
  expect(() => run(neckKit(), blobs, drive({ shares: [0.5, 0.5] }))).toThrow(/2 shares for 3 parts/);
  expect(() => run(neckKit(), blobs, drive({ stops: [{ value: 0, degrees: 4 }] }))).toThrow(/At neutral nothing is turned/);
  expect(() => run(neckKit(), blobs, drive({ stops: [{ value: 1, degrees: 0 }] }))).toThrow(/moves nothing/);
});

test('driven again, a chain has the new tables and no second ones', () => {
  const kit = run(neckKit(), blobs, drive(), drive({ shares: [0.2, 0.2, 0.6] }));
  expect(Object.values(kit.bindings)).toHaveLength(3);
  expect(rowsOf(kit, 'top').map(({ turn }) => Math.round(turn[0]))).toEqual([0, -36, 54]);
});
