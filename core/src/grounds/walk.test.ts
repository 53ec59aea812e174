import { callOf, emptyKit, MemoryBlobs, newPart, putArray, type Id, type Kit, type Knot, type Vec3, type Walkway } from '../document';
import { run } from '../tests/helpers';
import {
  buildWalkWorld,
  findWalkway,
  findWay,
  floats,
  floorsOf,
  layBetween,
  layRing,
  surfaceOf,
  tileHeights,
  wayFaults,
  type RopeFault,
  type WalkRules,
} from '.';

const RULES: WalkRules = { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 1.2 };
const FOOTPRINT = { low: [-3, 0, -3] as Vec3, high: [3, 0, 3] as Vec3, holes: [] };
/** A plot with blocks on it, each from one corner to the other. */
function plot(blocks: Record<Id, readonly [Vec3, Vec3]>): { kit: Kit; blobs: MemoryBlobs } {
  const kit = emptyKit('Plot');
  const blobs = new MemoryBlobs();
  kit.parts.plot = newPart({ id: 'plot', name: 'plot' });
  for (const [id, [low, high]] of Object.entries(blocks)) {
    const middle = low.map((value, axis) => (value + high[axis]) / 2) as Vec3;
    const corners = surfaceOf({ shape: 'box', at: middle, size: low.map((value, axis) => high[axis] - value) as Vec3 });
    kit.meshes[id] = {
      id,
      name: id,
      primitives: [
        {
          attributes: { POSITION: putArray(blobs, Float32Array.from(corners), 3) },
          indices: putArray(
            blobs,
            Uint32Array.from({ length: corners.length / 3 }, (_, i) => i),
            1,
          ),
          material: null,
        },
      ],
    };
    kit.parts[id] = newPart({ id, name: id, parent: 'plot', mesh: id });
  }
  kit.grounds = { footprint: { ...FOOTPRINT, holes: [] }, states: [], glows: [], facts: {} };
  return { kit, blobs };
}

const knot = (id: Id, at: Vec3, more: Partial<Knot> = {}): Knot => ({ id, name: '', at, edge: false, boards: [], leaves: [], ...more });
const roped = (a: Vec3, b: Vec3, rail = false): Walkway => ({
  knots: [knot('a', a, { edge: true }), knot('b', b)],
  ropes: [{ id: 'rope', from: 'a', to: 'b', oneWay: false, rail }],
});

const worldOf = ({ kit, blobs }: { kit: Kit; blobs: MemoryBlobs }) =>
  buildWalkWorld(kit, blobs, Object.values(kit.clips), FOOTPRINT, RULES);

const faultOf = (made: { kit: Kit; blobs: MemoryBlobs }, walkway: Walkway): RopeFault | null =>
  wayFaults(floorsOf(worldOf(made)), walkway, []).ropes[0] ?? null;

describe('a rope', () => {
  test('over the bare ground can be walked, from the very rim too', () => {
    expect(faultOf(plot({}), roped([-3, 0, 0], [2, 0, 1]))).toBeNull();
  });

  test('through a wall says which, and where', () => {
    const fault = faultOf(
      plot({
        wall: [
          [0, 0, -3],
          [0.2, 2, 3],
        ],
      }),
      roped([-3, 0, 0], [2, 0, 0]),
    )!;
    expect(fault).toMatchObject({ kind: 'through', cause: { part: 'wall', kind: 'part' } });
    // Half a person before it, within a column.
    expect(fault.at[0]).toBeGreaterThan(-0.4);
    expect(fault.at[0]).toBeLessThan(0);
  });

  test('under a low beam is a way through it; under a high one it is free', () => {
    const beam = (low: number) =>
      plot({
        beam: [
          [-3, low, -0.1],
          [3, low + 0.2, 0.1],
        ],
      });
    expect(faultOf(beam(1.6), roped([0, 0, -3], [0, 0, 2]))).toMatchObject({ kind: 'through', cause: { part: 'beam' } });
    expect(faultOf(beam(2), roped([0, 0, -3], [0, 0, 2]))).toBeNull();
  });

  test('up steps that can be taken is free, up one that can’t is not', () => {
    const stairs = (rise: number) =>
      plot(
        Object.fromEntries(
          [1, 2, 3, 4].map(
            (n) =>
              [
                `s${n}`,
                [
                  [-1, 0, -3 + 0.4 * n],
                  [1, rise * n, 3],
                ],
              ] as const,
          ),
        ) as unknown as Record<Id, readonly [Vec3, Vec3]>,
      );
    const line = (rise: number): Walkway => ({
      knots: [knot('a', [0, 0, -3], { edge: true }), knot('b', [0, 0, -2.7]), knot('c', [0, 4 * rise, -1.3])],
      ropes: [
        { id: 'flat', from: 'a', to: 'b', oneWay: false, rail: false },
        { id: 'up', from: 'b', to: 'c', oneWay: false, rail: false },
      ],
    });
    expect(faultOf(stairs(0.2), line(0.2))).toBeNull();
    expect(faultOf(stairs(0.35), line(0.35))).not.toBeNull();
  });

  test('in the air has nothing under it, and says how far off the floor is', () => {
    expect(faultOf(plot({}), roped([-3, 1, 0], [2, 1, 0]))).toMatchObject({ kind: 'gap', by: 1 });
    expect(faultOf(plot({}), roped([-3, 0, 0], [5, 0, 0]))).toMatchObject({ kind: 'gap', by: Infinity });
  });

  test('along a drop wants a rail, and has it', () => {
    const deck = plot({
      deck: [
        [-3, 0, -3],
        [0, 0.7, 3],
      ],
    });
    expect(faultOf(deck, roped([-0.1, 0.7, -2], [-0.1, 0.7, 2]))).toMatchObject({ kind: 'edge' });
    expect(faultOf(deck, roped([-0.1, 0.7, -2], [-0.1, 0.7, 2], true))).toBeNull();
    expect(faultOf(deck, roped([-1.5, 0.7, -2], [-1.5, 0.7, 2]))).toBeNull();
  });

  test('where something comes in a clip is a way through it, but not beneath what moves far above', () => {
    const moving = (height: number) => {
      const made = plot({
        car: [
          [-2.5, height, -2.5],
          [-1.5, height + 1, -1.5],
        ],
      });
      made.kit.clips.go = {
        id: 'go',
        name: 'go',
        lengthSeconds: 2,
        rate: 24,
        loop: 'loop',
        order: 0,
        tracks: [
          {
            kind: 'keys',
            id: 't',
            part: 'car',
            property: 'offset',
            axis: 0,
            keys: [0, 4, 0].map((value, i) => ({ time: i, value, easing: 'straight' as const })),
          },
        ],
      };
      return made;
    };
    const across = roped([1, 0, -3], [1, 0, 2]);
    expect(faultOf(moving(0), across)).toMatchObject({ kind: 'through', cause: { part: 'car', kind: 'moving' } });
    expect(faultOf(moving(3), across)).toBeNull();
    // At rest it stands elsewhere.
    const still = moving(0);
    still.kit.clips = {};
    expect(faultOf(still, across)).toBeNull();
  });

  test('through what is hidden on the bench is a way through it: it is in the package', () => {
    const made = plot({
      wall: [
        [0, 0, -3],
        [0.2, 2, 3],
      ],
    });
    made.kit.parts.wall.hidden = true;
    expect(faultOf(made, roped([-3, 0, 0], [2, 0, 0]))).toMatchObject({ kind: 'through', cause: { part: 'wall' } });
  });

  test('through what only joints move is a way through it where they bring it', () => {
    const made = plot({
      arm: [
        [-2.5, 0, -2.5],
        [-1.5, 1, -1.5],
      ],
    });
    const { kit, blobs } = made;
    const count = kit.meshes.arm.primitives[0].attributes.POSITION.count;
    kit.parts.joint = newPart({ id: 'joint', name: 'joint', role: 'joint', parent: 'plot' });
    Object.assign(kit.meshes.arm.primitives[0].attributes, {
      JOINTS_0: putArray(blobs, new Uint16Array(4 * count), 4),
      WEIGHTS_0: putArray(
        blobs,
        Float32Array.from({ length: 4 * count }, (_, i) => Number(i % 4 === 0)),
        4,
      ),
    });
    const still = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    kit.skins.skin = { id: 'skin', name: 'skin', joints: ['joint'], inverseBindMatrices: putArray(blobs, Float32Array.from(still), 16) };
    kit.parts.arm.skin = 'skin';
    const keys = [0, 4, 0].map((value, i) => ({ time: i, value, easing: 'straight' as const }));
    kit.clips.reach = {
      id: 'reach',
      name: 'reach',
      lengthSeconds: 2,
      rate: 24,
      loop: 'loop',
      order: 0,
      tracks: [{ kind: 'keys', id: 't', part: 'joint', property: 'offset', axis: 0, keys }],
    };
    expect(faultOf(made, roped([1, 0, -3], [1, 0, 2]))).toMatchObject({ kind: 'through', cause: { part: 'arm', kind: 'moving' } });
  });

  test('through a collider says whose, though nothing is seen there', () => {
    const made = plot({});
    made.kit.colliders = [{ id: 'air', part: 'plot', shape: 'box', at: [0, 0.5, 0], size: [0.5, 1, 0.5] }];
    expect(faultOf(made, roped([-3, 0, 0], [2, 0, 0]))).toMatchObject({ kind: 'through', cause: { part: 'plot', kind: 'collider' } });
  });
});

describe('the way', () => {
  const goal = (x: number, y: number, z: number) => [{ carrier: 'plot', places: [[x, y, z] as Vec3] }];
  const found = (made: { kit: Kit; blobs: MemoryBlobs }, at: readonly [number, number, number], reach = RULES.reach) => {
    const world = buildWalkWorld(made.kit, made.blobs, [], FOOTPRINT, { ...RULES, reach });
    return findWay(world, goal(...at));
  };

  test('over bare ground is one rope from the nearest edge', () => {
    const { walkway, unreached } = found(plot({}), [2, 0.4, 0]);
    expect(unreached).toEqual([]);
    expect([walkway.knots.length, walkway.ropes.length]).toEqual([2, 1]);
    expect(walkway.knots.find(({ edge }) => edge)!.at[0]).toBeCloseTo(3, 6);
  });

  test('goes round a wall, never through it', () => {
    const walled = plot({
      left: [
        [-3, 0, 0],
        [2, 2, 0.2],
      ],
      right: [
        [2.9, 0, -3],
        [3, 2, 3],
      ],
      back: [
        [-3, 0, 2.9],
        [3, 2, 3],
      ],
      side: [
        [-3, 0, -3],
        [-2.9, 2, 3],
      ],
    });
    const { walkway, unreached } = found(walled, [-2, 0.4, 2]);
    expect(unreached).toEqual([]);
    expect(walkway.knots.some(({ at }) => at[0] > 2 && Math.abs(at[2]) < 1)).toBe(true);
    for (const rope of walkway.ropes) {
      const [a, b] = [rope.from, rope.to].map((id) => walkway.knots.find((one) => one.id === id)!);
      expect(faultOf(walled, { knots: [a, b], ropes: [rope] })).toBeNull();
    }
  });

  test('to a seat that is walled in, above a step too high, or out of reach, there is none', () => {
    const box = plot({
      a: [
        [-1, 0, -1],
        [1, 2, -0.9],
      ],
      b: [
        [-1, 0, 0.9],
        [1, 2, 1],
      ],
      c: [
        [-1, 0, -1],
        [-0.9, 2, 1],
      ],
      d: [
        [0.9, 0, -1],
        [1, 2, 1],
      ],
    });
    expect(found(box, [0, 0.4, 0], 0.3).unreached).toEqual(['plot']);
    expect(
      found(
        plot({
          deck: [
            [-2, 0, -2],
            [2, 0.4, 2],
          ],
        }),
        [0, 0.8, 0],
        1,
      ).unreached,
    ).toEqual(['plot']);
    expect(found(plot({}), [0, 2.5, 0]).unreached).toEqual(['plot']);
  });

  test('that can’t be found is said, and the kit stays as it was', () => {
    const { kit, blobs } = plot({});
    kit.parts.seat = newPart({ id: 'seat', name: 'seat-01', role: 'seat', parent: 'plot', translation: [0, 4, 0] });
    const call = callOf(findWalkway, { rules: RULES, groups: [{ carrier: 'plot', seats: ['seat'] }] });
    expect(() => run(kit, blobs, call)).toThrow(/No visitor comes to any seat/);
    expect(() => run({ ...kit, grounds: undefined }, blobs, call)).toThrow(/which tiles it takes/);
    expect(() => run(kit, blobs, callOf(findWalkway, { rules: RULES, groups: [] }))).toThrow(/no seats/);
  });
});

describe('a way between two knots', () => {
  const between = (made: { kit: Kit; blobs: MemoryBlobs }, a: Vec3, b: Vec3) => {
    made.kit.walkway = { knots: [knot('a', a), knot('b', b)], ropes: [{ id: 'straight', from: 'b', to: 'a', oneWay: false, rail: false }] };
    return run(made.kit, made.blobs, callOf(layBetween, { rules: RULES, from: 'a', to: 'b' }));
  };
  const stairsAlongWall = plot({
    wall: [
      [-1, 0, 0],
      [3, 3, 0.2],
    ],
    ...Object.fromEntries([1, 2, 3, 4].map((n) => [`s${n}`, [[-3 + 0.4 * n, 0, -3] as Vec3, [3, 0.2 * n, -0.05] as Vec3] as const])),
  });

  test('leads up the stairs between them, and every rope of it can be walked', () => {
    const { walkway } = between(stairsAlongWall, [-2.9, 0, -1.5], [1, 0.8, -1.5]);
    expect(wayFaults(floorsOf(worldOf(stairsAlongWall)), walkway!, []).ropes).toEqual([]);
    // What joined them straight is replaced.
    expect(walkway!.ropes.some(({ id }) => id === 'straight')).toBe(false);
  });

  test('goes round what stands between, from the one to the other', () => {
    const made = plot({
      wall: [
        [-2, 0, -0.1],
        [2, 2, 0.1],
      ],
    });
    const { walkway } = between(made, [0, 0, -1], [0, 0, 1]);
    expect(walkway!.ropes.length).toBeGreaterThan(1);
    expect(wayFaults(floorsOf(worldOf(made)), walkway!, []).ropes).toEqual([]);
    const ends = walkway!.ropes.flatMap(({ from, to }) => [from, to]);
    for (const id of ['a', 'b']) expect(ends.filter((one) => one === id)).toHaveLength(1);
  });

  test('is refused where nobody can walk it, and nothing is changed', () => {
    const made = plot({
      wall: [
        [-3, 0, -0.1],
        [3, 2, 0.1],
      ],
    });
    expect(() => between(made, [0, 0, -1], [0, 0, 1])).toThrow(/No visitor can walk from the one knot/);
    expect(() => between(plot({}), [0, 5, -1], [0, 0, 1])).toThrow(/No visitor can walk/);
  });
});

describe('a ring round the edge', () => {
  const ring = (made: { kit: Kit; blobs: MemoryBlobs }) => run(made.kit, made.blobs, callOf(layRing, { rules: RULES, tile: 2 }));

  test('of a bare plot closes, and joins the park at each tile of its edge', () => {
    const { walkway } = ring(plot({}));
    // Three tiles a side: a knot each, and the corners.
    expect(walkway!.knots.filter(({ edge }) => edge)).toHaveLength(12);
    expect(walkway!.knots).toHaveLength(16);
    const met = new Map<Id, number>();
    for (const { from, to } of walkway!.ropes) for (const id of [from, to]) met.set(id, (met.get(id) ?? 0) + 1);
    expect([...met.values()].every((times) => times === 2)).toBe(true);
    expect(walkway!.ropes).toHaveLength(16);
    for (const { at } of walkway!.knots) expect(Math.max(Math.abs(at[0]), Math.abs(at[2]))).toBe(3);
  });

  test('goes through the knots that lie there, and a second one adds nothing', () => {
    const made = plot({});
    made.kit.walkway = roped([-3, 0, 0.1], [0, 0, 0]);
    const once = ring(made);
    expect(once.walkway!.knots).toHaveLength(2 + 15);
    expect(once.walkway!.ropes.filter(({ from, to }) => from === 'a' || to === 'a')).toHaveLength(3);
    expect(() => ring({ ...made, kit: once })).toThrow(/ring is there already/);
  });

  test('is open where something stands, and what it has can be walked', () => {
    const made = plot({
      wall: [
        [0, 0, 2.5],
        [0.4, 2, 3],
      ],
    });
    const { walkway } = ring(made);
    expect(wayFaults(floorsOf(worldOf(made)), walkway!, []).ropes).toEqual([]);
    // One side of a tile is closed off, and nothing leads across from one end of the gap to the other.
    expect(walkway!.ropes).toHaveLength(14);
    for (const { from, to } of walkway!.ropes) {
      const [a, b] = [from, to].map((id) => walkway!.knots.find((one) => one.id === id)!.at);
      expect(Math.hypot(a[0] - b[0], a[2] - b[2])).toBeLessThan(2 + 1e-6);
    }
    expect(() =>
      ring(
        plot({
          all: [
            [-3, 0, -3],
            [3, 2, 3],
          ],
        }),
      ),
    ).toThrow(/Nobody can walk along the edge/);
  });
});

describe('heights by tile', () => {
  test('are those of what stands over each: long triangles count where they are', () => {
    const { kit, blobs } = plot({
      slab: [
        [-3, 0.5, -3],
        [3, 0.75, -1],
      ],
      post: [
        [1.2, 0, 1.2],
        [1.4, 2.25, 1.4],
      ],
    });
    const heights = tileHeights(kit, blobs, FOOTPRINT, 2);
    expect(heights.map(({ low, high }) => [low, high])).toEqual([
      [0.5, 0.75],
      [0.5, 0.75],
      [0.5, 0.75],
      [null, null],
      [null, null],
      [null, null],
      [null, null],
      [null, null],
      [0, 2.25],
    ]);
    expect(heights.map(floats)).toEqual([true, true, true, ...Array<boolean>(6).fill(false)]);
  });

  test('agree with the highest and lowest of many points on the triangles', () => {
    const { kit, blobs } = plot({
      ramp: [
        [-2.3, 0.1, -1.7],
        [2.1, 1.9, 2.6],
      ],
    });
    kit.parts.ramp.rotation = [Math.sin(0.2), 0, 0, Math.cos(0.2)];
    const heights = tileHeights(kit, blobs, FOOTPRINT, 2);
    const points = surfaceOf({ shape: 'box', at: [-0.1, 1, 0.45], size: [4.4, 1.8, 4.3] });
    const [sin, cos] = [Math.sin(0.4), Math.cos(0.4)];
    for (let t = 0; t < points.length; t += 9)
      for (let i = 0; i <= 24; i++)
        for (let j = 0; i + j <= 24; j++) {
          const [x, y, z] = [0, 1, 2].map(
            (axis) => (points[t + axis] * i + points[t + 3 + axis] * j + points[t + 6 + axis] * (24 - i - j)) / 24,
          );
          const [up, on] = [y * cos - z * sin, y * sin + z * cos];
          const tile = heights.find(({ middle }) => Math.abs(middle[0] - x) < 1 && Math.abs(middle[2] - on) < 1);
          if (!tile) continue;
          expect(up).toBeGreaterThanOrEqual(tile.low! - 1e-5);
          expect(up).toBeLessThanOrEqual(tile.high! + 1e-5);
        }
  });
});
