import fc from 'fast-check';
import {
  callOf,
  cornersOfBox,
  emptyKit,
  MemoryBlobs,
  moveShape,
  newPart,
  type ColliderShape,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import { quatFromTurn, restWorlds } from '../geometry';
import { putWedge, run, worldVertices } from '../tests/helpers';
import {
  fitColliders,
  fitOf,
  fitShape,
  footprintOf,
  hasVolume,
  isOnGrid,
  joinColliders,
  leanOf,
  makeSeats,
  onGrid,
  outsideOf,
  ownPoints,
  plumbHeight,
  seatGroups,
  seatOrder,
  setFootprint,
  setUpright,
  surfaceOf,
  tileMiddles,
  toggleHole,
  turnSeats,
} from '.';

const number = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
const point = fc.tuple(number(3), number(3), number(3)) as fc.Arbitrary<Vec3>;
const turn = fc.tuple(number(180), number(180), number(180)).map((degrees) => quatFromTurn(degrees, 'xyz'));

describe('tiles', () => {
  test('of bounds hold them, are whole, and are as few as can be', () => {
    fc.assert(
      fc.property(point, point, fc.constantFrom(1, 2, 2.5), (a, b, tile) => {
        const min = a.map((value, axis) => Math.min(value, b[axis])) as Vec3;
        const max = a.map((value, axis) => Math.max(value, b[axis])) as Vec3;
        const { low, high } = footprintOf({ min, max }, tile)!;
        for (const axis of [0, 2]) {
          expect(low[axis]).toBeLessThanOrEqual(min[axis] + 1e-3);
          expect(high[axis]).toBeGreaterThanOrEqual(max[axis] - 1e-3);
          // One tile fewer would not do, wherever the origin lies in it.
          expect(high[axis] - low[axis]).toBeLessThanOrEqual(max[axis] - min[axis] + 2 * tile);
        }
        expect(isOnGrid({ low, high, holes: [] }, tile)).toBe(true);
        expect(onGrid({ low, high, holes: [] }, tile)).toMatchObject({ low, high });
      }),
    );
  });

  test('six metres about the origin are three tiles of two, not four', () => {
    expect(footprintOf({ min: [-3, 0, -2], max: [3, 1, 2] }, 2)).toEqual({ low: [-3, 0, -2], high: [3, 0, 2], holes: [] });
    expect(tileMiddles({ low: [-3, 0, -2], high: [3, 0, 2], holes: [] }, 2)).toHaveLength(6);
  });

  test('a hole is opened and closed, stays while its tile does, and nothing beside the tiles is one', () => {
    const blobs = new MemoryBlobs();
    const kit = emptyKit('Plot');
    const tiled = run(kit, blobs, callOf(setFootprint, { footprint: { low: [-3, 0, -2], high: [3, 0, 2] }, tile: 2 }));
    const open = run(tiled, blobs, callOf(toggleHole, { at: [2.9, 0, -1.9], tile: 2 }));
    expect(open.grounds!.footprint!.holes).toEqual([[2, 0, -1]]);
    expect(run(open, blobs, callOf(toggleHole, { at: [1.2, 0, -0.1], tile: 2 })).grounds!.footprint!.holes).toEqual([]);
    const narrower = run(open, blobs, callOf(setFootprint, { footprint: { low: [-3, 0, -2], high: [1, 0, 2] }, tile: 2 }));
    expect(narrower.grounds!.footprint!.holes).toEqual([]);
    expect(() => run(open, blobs, callOf(toggleHole, { at: [5, 0, 0], tile: 2 }))).toThrow(/no tile of this kit/);
  });
});

/** Seats with meshes below a turned carrier, each with a part of its own below. */
function seated(
  rotation: readonly [number, number, number, number],
  carrier: readonly [number, number, number, number],
): { kit: Kit; blobs: MemoryBlobs } {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Seats');
  kit.parts.plot = newPart({ id: 'plot', name: 'plot' });
  kit.parts.car = newPart({ id: 'car', name: 'car', parent: 'plot', rotation: [...carrier], translation: [1, 2, 3] });
  for (const [i, id] of ['s1', 's2'].entries()) {
    kit.parts[id] = newPart({
      id,
      name: id,
      role: 'seat',
      parent: 'car',
      translation: [i, 0.5, 0],
      rotation: [...rotation],
      mesh: putWedge(kit, blobs, `mesh_${id}`, 0.4),
    });
    kit.parts[`${id}x`] = newPart({
      id: `${id}x`,
      name: `${id}x`,
      parent: id,
      translation: [0.1, 0.2, 0.3],
      mesh: putWedge(kit, blobs, `mesh_${id}x`, 0.2),
    });
  }
  return { kit, blobs };
}

describe('seats', () => {
  test('set upright have up within 0.1° of the world’s, their place and all that is drawn unmoved', () => {
    fc.assert(
      fc.property(turn, turn, (rotation, carrier) => {
        const { kit, blobs } = seated(rotation, carrier);
        const before = worldVertices(kit, blobs);
        const after = run(kit, blobs, callOf(setUpright, { seats: ['s1', 's2'] }));
        const [a, b] = [restWorlds(kit), restWorlds(after)];
        for (const id of ['s1', 's2']) {
          expect(leanOf(b.get(id)!)).toBeLessThan(0.1);
          [12, 13, 14].forEach((i) => expect(b.get(id)![i]).toBeCloseTo(a.get(id)![i], 9));
        }
        worldVertices(after, blobs).forEach((value, i) => expect(value).toBeCloseTo(before[i], 5));
      }),
    );
  });

  test('on their backs are raised to look where their feet were, and head down are turned over', () => {
    const still = quatFromTurn([0, 0, 0], 'xyz');
    // Lying with the face to the sky: ahead is up, and up is back.
    const { kit, blobs } = seated(quatFromTurn([-90, 0, 0], 'xyz'), still);
    const ahead = (of: Kit) => Array.from(restWorlds(of).get('s1')!.subarray(8, 11));
    expect(ahead(kit)[1]).toBeCloseTo(1, 6);
    const up = run(kit, blobs, callOf(setUpright, { seats: ['s1'] }));
    expect(ahead(up).map((value) => Math.round(value) + 0)).toEqual([0, 0, 1]);
    const over = seated(quatFromTurn([0, 0, 180], 'xyz'), still);
    expect(ahead(run(over.kit, over.blobs, callOf(setUpright, { seats: ['s1'] }))).map((value) => Math.round(value) + 0)).toEqual([
      0, 0, 1,
    ]);
    const turned = run(up, blobs, callOf(turnSeats, { seats: ['s1'], degrees: 90 }));
    expect(ahead(turned).map((value) => Math.round(value) + 0)).toEqual([1, 0, 0]);
  });

  test('are put where a chair is sat on, upright, numbered on', () => {
    const blobs = new MemoryBlobs();
    const kit = emptyKit('Chair');
    kit.parts.plot = newPart({ id: 'plot', name: 'plot' });
    kit.parts.chair = newPart({
      id: 'chair',
      name: 'chair',
      parent: 'plot',
      rotation: quatFromTurn([0, 90, 0], 'xyz'),
      translation: [2, 0, 0],
    });
    kit.parts.chair.mesh = putWedge(kit, blobs, 'mesh_chair', 0.4);
    kit.parts.first = newPart({ id: 'first', name: 'seat-01', parent: 'plot', role: 'seat' });
    const made = run(kit, blobs, callOf(makeSeats, { chairs: ['chair'], like: null, prefix: 'seat-', figures: 2, ids: ['new'] }));
    expect(made.parts.new).toMatchObject({ name: 'seat-02', role: 'seat', parent: 'chair' });
    const world = restWorlds(made).get('new')!;
    expect(leanOf(world)).toBeLessThan(1e-6);
    const groups = seatGroups(made, ({ role }) => role === 'seat');
    expect(groups.map(({ carrier, seats }) => [carrier, seats])).toEqual([
      ['chair', ['new']],
      ['plot', ['first']],
    ]);
  });

  test('of a row are counted from its one end, of a ring round it', () => {
    const kit = emptyKit('Row');
    kit.parts.plot = newPart({ id: 'plot', name: 'plot' });
    const put = (id: Id, x: number, z: number) =>
      (kit.parts[id] = newPart({
        id,
        name: id,
        role: 'seat',
        parent: 'plot',
        translation: [x, 0, z],
        order: Object.keys(kit.parts).length,
      }));
    [2, 0, 3, 1].forEach((x) => put(`row${x}`, -x, 0.01 * x));
    expect(seatOrder(kit, [{ carrier: 'plot', seats: ['row2', 'row0', 'row3', 'row1'] }])).toEqual(['row0', 'row1', 'row2', 'row3']);
    const ring = [0, 1, 2, 3, 4, 5].map((i) => `ring${i}`);
    ring.forEach((id, i) => put(id, Math.sin((i * Math.PI) / 3), Math.cos((i * Math.PI) / 3)));
    const shuffled = [ring[3], ring[0], ring[5], ring[1], ring[4], ring[2]];
    const order = seatOrder(kit, [{ carrier: 'plot', seats: shuffled }]);
    const from = order.indexOf('ring1');
    expect([...order.slice(from), ...order.slice(0, from)]).toEqual([ring[1], ring[2], ring[3], ring[4], ring[5], ring[0]]);
  });
});

describe('colliders', () => {
  const cloud = fc.array(point, { minLength: 5, maxLength: 60 }).filter(hasVolume);

  test('hold every point that they are fitted to', () => {
    fc.assert(
      fc.property(cloud, fc.constantFrom('box', 'capsule', 'hull'), (points, shape) => {
        const fitted = fitShape(Float64Array.from(points.flat()), shape)!;
        const outside = outsideOf(fitted);
        for (const one of points) expect(outside(one)).toBeLessThan(1e-5);
        expect(fitOf(fitted, Float64Array.from(points.flat())).inside).toBeGreaterThan(0.99);
      }),
    );
  });

  test('of many points, or many corners, hold them all with few corners of their own', () => {
    for (const count of [300, 6000]) {
      const points = Array.from({ length: count }, (_, i): Vec3 => {
        const y = 1 - (2 * i + 1) / count;
        const r = Math.sqrt(1 - y * y);
        return [3 + 2 * r * Math.cos(2.4 * i), y, 0.5 * r * Math.sin(2.4 * i)];
      });
      const fitted = fitShape(Float64Array.from(points.flat()), 'hull')!;
      if (fitted.shape !== 'hull') throw new Error('no hull');
      expect(fitted.points.length).toBeLessThanOrEqual(64);
      const outside = outsideOf(fitted);
      for (const one of points) expect(outside(one)).toBeLessThan(1e-6);
      // It is grown by no more than a tenth of its longest side.
      expect(fitOf(fitted, Float64Array.from(points.flat())).beyond).toBeLessThan(0.4);
    }
    // What lies in a plane is boxed, as thick as a sheet has to be.
    const flat = fitShape(Float64Array.from([0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 1]), 'hull')!;
    expect(outsideOf(flat)([0.5, 0, 0.5])).toBeLessThan(0);
  });

  test('have surfaces that are closed and on which their own distance is none', () => {
    const shapes: ColliderShape[] = [
      { shape: 'box', at: [1, 0, 0], size: [1, 2, 3] },
      { shape: 'capsule', from: [0, 0, 0], to: [0, 2, 1], radius: 0.5 },
      { shape: 'hull', points: [...cornersOfBox({ shape: 'box', at: [0, 0, 0], size: [1, 1, 1] }), [0, 2, 0]] },
    ];
    for (const shape of shapes) {
      const corners = surfaceOf(shape);
      const outside = outsideOf(shape);
      const edges = new Map<string, number>();
      const key = (at: number) => Array.from(corners.subarray(at, at + 3), (value) => value.toFixed(6)).join();
      for (let t = 0; t < corners.length; t += 9)
        for (let k = 0; k < 3; k++) {
          expect(Math.abs(outside(corners.subarray(t + 3 * k, t + 3 * k + 3)))).toBeLessThan(1e-6);
          const [a, b] = [key(t + 3 * k), key(t + 3 * ((k + 1) % 3))];
          edges.set(`${a}|${b}`, (edges.get(`${a}|${b}`) ?? 0) + 1);
        }
      for (const [edge, times] of edges) expect([times, edges.get(edge.split('|').reverse().join('|'))]).toEqual([1, 1]);
    }
  });

  test('moved by a quarter turn are boxes still, askew the hull of their corners, and hold the same places', () => {
    fc.assert(
      fc.property(point, turn, (at, rotation) => {
        const box: ColliderShape = { shape: 'box', at, size: [1, 2, 0.5] };
        const world = restWorlds({ ...emptyKit('x'), parts: { a: newPart({ id: 'a', name: 'a', rotation, translation: [1, 2, 3] }) } }).get(
          'a',
        )!;
        const move = (p: Vec3): Vec3 =>
          [0, 1, 2].map((i) => world[i] * p[0] + world[4 + i] * p[1] + world[8 + i] * p[2] + world[12 + i]) as Vec3;
        const moved = moveShape(box, move);
        const [before, after] = [outsideOf(box), outsideOf(moved)];
        for (let i = 0; i < 20; i++) {
          const p: Vec3 = [at[0] + Math.sin(3 * i), at[1] + Math.sin(5 * i), at[2] + Math.sin(7 * i)];
          if (Math.abs(before(p)) > 1e-4) expect(after(move(p)) > 0).toBe(before(p) > 0);
        }
      }),
    );
  });

  test('are fitted to parts, snapped to a grid of the world, and joined to one that holds both', () => {
    const { kit, blobs } = seated(quatFromTurn([0, 0, 0], 'xyz'), quatFromTurn([0, 0, 0], 'xyz'));
    const fitted = run(kit, blobs, callOf(fitColliders, { parts: ['s1', 's2'], shape: 'box', snap: null }));
    expect(fitOf(fitted.colliders![0], ownPoints(fitted, blobs, 's1'))).toEqual({ inside: 1, beyond: 0 });
    const snapped = run(kit, blobs, callOf(fitColliders, { parts: ['s1'], shape: 'box', snap: 1 })).colliders![0];
    expect(snapped).toMatchObject({ shape: 'box', size: [1, 1, 1] });
    const joined = run(fitted, blobs, callOf(joinColliders, { colliders: fitted.colliders!.map(({ id }) => id) }));
    expect(joined.colliders).toHaveLength(1);
    expect(joined.colliders![0]).toMatchObject({ shape: 'box', part: 's1' });
    expect(() => run(kit, blobs, callOf(fitColliders, { parts: ['plot'], shape: 'box', snap: null }))).toThrow(/“plot” shows nothing/);
  });
});

test('a plumb line meets a triangle where the plane does, and passes beside it elsewhere', () => {
  fc.assert(
    fc.property(
      point,
      point,
      point,
      fc.double({ min: 0.05, max: 0.6, noNaN: true }),
      fc.double({ min: 0.05, max: 0.35, noNaN: true }),
      (a, b, c, u, v) => {
        fc.pre(Math.abs((b[0] - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (b[2] - a[2])) > 1e-3);
        const at = a.map((value, axis) => value + u * (b[axis] - value) + v * (c[axis] - value));
        expect(plumbHeight([...a, ...b, ...c], at[0], at[2])).toBeCloseTo(at[1], 6);
        const beyond = a.map((value, axis) => value - 0.2 * (b[axis] - value));
        expect(plumbHeight([...a, ...b, ...c], beyond[0], beyond[2])).toBeNull();
      },
    ),
  );
});
