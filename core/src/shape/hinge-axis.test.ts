import fc from 'fast-check';
import { putArray, readArray, callOf, type Axis, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import {
  affineMatrix,
  angleBetweenQuats,
  invertMatrix,
  mat3FromQuat,
  multiplyMatrices,
  quatFromTurn,
  restWorlds,
  transformPoint,
} from '../geometry';
import { chainKit, extentOf, greatestDifference, run, TIMES, withMotion, worldVertices } from '../tests/helpers';
import { applyRotation, readInPart, setHingeAxis, turnsToLine } from './hinge-axis';
import { splitFaces } from './split-parts';
import { AxesMovedError } from './turn-own-axes';

const angle = fc.double({ min: -180, max: 180, noNaN: true });
const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
const place = fc.double({ min: -3, max: 3, noNaN: true });
const point = fc.tuple(place, place, place) as fc.Arbitrary<Vec3>;

const chain = (one: Vec3, two: Vec3) =>
  chainKit([
    { id: 'a', rotation: quatFromTurn(one, 'xyz') },
    { id: 'b', translation: [0, 1, 0.5], rotation: quatFromTurn(two, 'xyz') },
    { id: 'c', translation: [0.3, 0, 1] },
  ]);

test('a hinge lays the axis along the line and the pivot onto it; no vertex moves, whatever moves around it', () => {
  fc.assert(
    fc.property(turn, turn, point, point, fc.constantFrom<Axis>(0, 1, 2), (one, two, from, to, axis) => {
      fc.pre(Math.hypot(...from.map((value, i) => value - to[i])) > 0.1);
      const { kit: still, blobs } = chain(one, two);
      const kit = withMotion(withMotion(still, blobs, 'a', 'turn', 0, [0, 90, -50]), blobs, 'c', 'turn', 1, [0, 120, 10]);
      const next = run(kit, blobs, callOf(setHingeAxis, { part: 'b', axis, from, to }));
      const world = restWorlds(next).get('b')!;
      const along = [world[4 * axis], world[4 * axis + 1], world[4 * axis + 2]];
      const length = Math.hypot(...from.map((value, i) => to[i] - value));
      along.forEach((value, i) => expect(value).toBeCloseTo((to[i] - from[i]) / length, 6));
      from.forEach((value, i) => expect(world[12 + i]).toBeCloseTo(value, 6));
      for (const time of TIMES) {
        const before = worldVertices(kit, blobs, 'clip', time);
        expect(greatestDifference(worldVertices(next, blobs, 'clip', time), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
      }
    }),
    { numRuns: 60 },
  );
});

test('along a line that an own axis lies along, either way, a hinge leaves no turn at rest', () => {
  fc.assert(
    fc.property(turn, turn, point, fc.constantFrom<Axis>(0, 1, 2), fc.constantFrom(1, -1), (one, two, from, axis, way) => {
      const { kit, blobs } = chain(one, two);
      const world = restWorlds(kit).get('b')!;
      const to = from.map((value, i) => value + way * world[4 * axis + i]) as Vec3;
      const turns = turnsToLine(kit, 'b', [from, to]);
      expect(turns[axis]).toBeLessThan(1e-4);
      turns.forEach((value, other) => other !== axis && expect(value).toBeCloseTo(90, 3));
      const next = run(kit, blobs, callOf(setHingeAxis, { part: 'b', axis, from, to, either: true }));
      expect(next.parts.b.rotation).toEqual(kit.parts.b.rotation);
      expect(next.parts.b.translation).not.toEqual(kit.parts.b.translation);
    }),
    { numRuns: 60 },
  );
});

test('either way, no axis turns by more than a quarter, and turns told are turns made', () => {
  fc.assert(
    fc.property(turn, point, point, fc.constantFrom<Axis>(0, 1, 2), (two, from, to, axis) => {
      fc.pre(Math.hypot(...from.map((value, i) => value - to[i])) > 0.1);
      const { kit, blobs } = chain([0, 0, 0], two);
      const told = turnsToLine(kit, 'b', [from, to])[axis];
      const next = run(kit, blobs, callOf(setHingeAxis, { part: 'b', axis, from, to, either: true }));
      const made = angleBetweenQuats(kit.parts.b.rotation, next.parts.b.rotation);
      expect(told).toBeLessThanOrEqual(90 + 1e-9);
      expect(made).toBeCloseTo(told < 1e-3 ? 0 : told, 3);
    }),
    { numRuns: 60 },
  );
});

test('applying a quarter turn keeps every kind of motion; an askew one keeps dense motion, and refuses keys', () => {
  fc.assert(
    fc.property(fc.tuple(...[0, 1, 2].map(() => fc.constantFrom(0, 90, 180, -90))), (quarter) => {
      const { kit: still, blobs } = chain([0, 0, 0], quarter as Vec3);
      let kit = withMotion(still, blobs, 'b', 'turn', 0, [0, 90, -50]);
      kit = withMotion(kit, blobs, 'b', 'turn', 2, [0, 20]);
      kit = withMotion(kit, blobs, 'b', 'size', 1, [1, 1.5]);
      kit = withMotion(kit, blobs, 'c', 'offset', 1, [0, 2, -1]);
      const next = run(kit, blobs, callOf(applyRotation, { parts: ['b'] }));
      expect(next.parts.b.rotation).toEqual([0, 0, 0, 1]);
      for (const time of TIMES) {
        const before = worldVertices(kit, blobs, 'clip', time);
        expect(greatestDifference(worldVertices(next, blobs, 'clip', time), before)).toBeLessThanOrEqual(1e-5 * extentOf(before));
      }
    }),
    { numRuns: 40 },
  );
  const { kit, blobs } = chain([0, 0, 0], [10, 20, 30]);
  const keyed = withMotion(kit, blobs, 'b', 'turn', 0, [0, 90]);
  expect(() => run(keyed, blobs, callOf(applyRotation, { parts: ['b'] }))).toThrow(AxesMovedError);
  const dense = withSpins(kit, blobs);
  const next = run(dense, blobs, callOf(applyRotation, { parts: ['b'] }));
  for (const time of TIMES)
    expect(greatestDifference(worldVertices(next, blobs, 'clip', time), worldVertices(dense, blobs, 'clip', time))).toBeLessThan(1e-5);
});

function withSpins(kit: Kit, blobs: MemoryBlobs): Kit {
  const values = Float32Array.from([
    ...quatFromTurn([0, 0, 0], 'xyz'),
    ...quatFromTurn([40, 70, -20], 'xyz'),
    ...quatFromTurn([0, 160, 0], 'xyz'),
  ]);
  const track = {
    kind: 'samples' as const,
    id: 'spin',
    part: 'b',
    property: 'rotation' as const,
    interpolation: 'straight' as const,
    times: putArray(blobs, Float32Array.from([0, 1, 2]), 1),
    values: putArray(blobs, values, 4),
  };
  return { ...kit, clips: { clip: { id: 'clip', name: 'clip', order: 0, lengthSeconds: 2, rate: 30, loop: 'once', tracks: [track] } } };
}

/** A hull of one piece, with a flat vane inside: four corners, its leading edge slanted. */
function hullWithVane(): { kit: Kit; blobs: MemoryBlobs; leading: [Vec3, Vec3] } {
  const { kit, blobs } = chainKit([{ id: 'hull', translation: [0, 0.4, 0], rotation: quatFromTurn([0, 30, 0], 'xyz') }]);
  const box = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].map((z) => [x, y, 2 * z])));
  const sides = [
    [0, 1, 3, 2],
    [4, 6, 7, 5],
    [0, 4, 5, 1],
    [2, 3, 7, 6],
    [0, 2, 6, 4],
    [1, 5, 7, 3],
  ];
  const vane = [
    [0, -0.6, 0.5],
    [0, 0.6, 0.2],
    [0, 0.6, -0.5],
    [0, -0.6, -0.5],
  ];
  const indices = sides.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]).concat([8, 9, 10, 8, 10, 11]);
  const positions = Float32Array.from([...box, ...vane].flat());
  kit.meshes.mesh_hull = {
    id: 'mesh_hull',
    name: 'hull',
    primitives: [
      { material: null, attributes: { POSITION: putArray(blobs, positions, 3) }, indices: putArray(blobs, Uint32Array.from(indices), 1) },
    ],
  };
  const world = restWorlds(kit).get('hull')!;
  return { kit, blobs, leading: [transformPoint(world, vane[0]), transformPoint(world, vane[1])] };
}

test('a vane cut from a hull of one piece swings ±28° about its slanted leading edge, and about that alone', () => {
  const { kit, blobs, leading } = hullWithVane();
  const cut = run(
    kit,
    blobs,
    callOf(splitFaces, { part: 'hull', faces: [[12, 2]], id: 'vane', name: 'vane', place: 'below', pivot: 'keep' }),
  );
  const hinged = run(cut, blobs, callOf(setHingeAxis, { part: 'vane', axis: 1, from: leading[0], to: leading[1] }));
  expect(greatestDifference(worldVertices(hinged, blobs), worldVertices(cut, blobs))).toBeLessThan(1e-6);
  const rest = vaneOf(hinged, blobs);
  for (const degrees of [-28, -10, 28]) {
    const swung = vaneOf(withMotion(hinged, blobs, 'vane', 'turn', 1, [degrees, degrees]), blobs, 'clip');
    rest.forEach((before, v) => {
      const [off, now] = [before, swung[v]].map((p) => fromLine(p, leading));
      // As far from the edge, and as far along it, as before; turned by the angle about it.
      expect(now.distance).toBeCloseTo(off.distance, 6);
      expect(now.along).toBeCloseTo(off.along, 6);
      if (off.distance < 1e-6) return;
      const cos = off.across.reduce((sum, value, i) => sum + value * now.across[i], 0) / off.distance ** 2;
      expect(cos).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 6);
    });
  }
});

function vaneOf(kit: Kit, blobs: MemoryBlobs, clip?: string): Vec3[] {
  const alone = { ...kit, meshes: { ...kit.meshes, [kit.parts.hull.mesh!]: { ...kit.meshes[kit.parts.hull.mesh!], primitives: [] } } };
  const all = worldVertices(alone, blobs, clip, 0.5);
  return Array.from({ length: all.length / 3 }, (_, v) => [all[3 * v], all[3 * v + 1], all[3 * v + 2]] as Vec3);
}

function fromLine(p: Vec3, [from, to]: [Vec3, Vec3]) {
  const line = to.map((value, i) => value - from[i]);
  const length = Math.hypot(...line);
  const own = p.map((value, i) => value - from[i]);
  const along = own.reduce((sum, value, i) => sum + (value * line[i]) / length, 0);
  const across = own.map((value, i) => value - (along * line[i]) / length);
  return { along, across, distance: Math.hypot(...across) };
}

test('a hinge typed in the axes of the frame and read in those of the lid is F = L⁻¹ · W', () => {
  const { kit } = chainKit([
    { id: 'frame', translation: [0.2, 0.1, -0.4], rotation: quatFromTurn([5, 30, 0], 'xyz') },
    { id: 'lid', translation: [0, 0.9, 0.3], rotation: quatFromTurn([0, 12, -8], 'xyz') },
  ]);
  const typed: Vec3 = [0.25, -0.35, 0.9];
  const worlds = restWorlds(kit);
  const read = readInPart(kit, 'lid', transformPoint(worlds.get('frame')!, typed), [0, 0, 1]);
  // The product written out: lid is below frame, so its matrix in the frame's axes is its own placement.
  const local = affineMatrix(mat3FromQuat(kit.parts.lid.rotation), kit.parts.lid.translation);
  const product = multiplyMatrices(invertMatrix(local)!, affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], typed));
  [12, 13, 14].forEach((i, axis) => expect(Math.abs(read.point[axis] - product[i])).toBeLessThan(1e-6));
});

test('two points at one place are no axis', () => {
  const { kit, blobs } = chain([0, 0, 0], [0, 0, 0]);
  expect(() => run(kit, blobs, callOf(setHingeAxis, { part: 'b', axis: 0, from: [1, 1, 1], to: [1, 1, 1] }))).toThrow(/no direction/);
  expect(readArray(blobs, kit.meshes.mesh_b.primitives[0].indices).length).toBe(12);
});
