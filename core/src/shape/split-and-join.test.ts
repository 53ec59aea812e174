import fc from 'fast-check';
import { readArray, callOf, type MemoryBlobs, type Kit, type Mesh } from '../document';
import { quatFromTurn, restWorlds, runsOf, transformPoint } from '../geometry';
import { chainKit, extentOf, greatestDifference, putSphere, run, TIMES, withMotion, worldVertices } from '../tests/helpers';
import { joinParts } from './join-parts';
import { mirrorParts, pivotToTwin } from './mirror-parts';
import { splitByMaterial, splitByPlane, splitFaces, splitLoose } from './split-parts';

/** Every drawn triangle by the places of its corners at rest in the world, in a fixed order; corners begin at the smallest. */
function triangles(kit: Kit, blobs: MemoryBlobs): string[] {
  const worlds = restWorlds(kit);
  return Object.values(kit.parts)
    .flatMap((part) =>
      part.mesh === null
        ? []
        : kit.meshes[part.mesh].primitives.flatMap((primitive) => trianglesOf(primitive, worlds.get(part.id)!, blobs)),
    )
    .sort();
}

function trianglesOf({ attributes, indices }: Mesh['primitives'][number], world: Float64Array, blobs: MemoryBlobs): string[] {
  const positions = readArray<Float32Array>(blobs, attributes.POSITION);
  const uvs = attributes.TEXCOORD_0 && readArray<Float32Array>(blobs, attributes.TEXCOORD_0);
  const corner = (v: number) =>
    `${transformPoint(world, positions.subarray(3 * v, 3 * v + 3)).map((value) => (value + 0).toFixed(4))} ${uvs ? [...uvs.subarray(2 * v, 2 * v + 2)] : ''}`.replaceAll(
      '-0.0000',
      '0.0000',
    );
  const list = readArray<Uint32Array>(blobs, indices);
  return Array.from({ length: list.length / 3 }, (_, t) => {
    const three = [0, 1, 2].map((k) => corner(list[3 * t + k]));
    const first = three.indexOf([...three].sort()[0]);
    return [0, 1, 2].map((k) => three[(first + k) % 3]).join(' | ');
  });
}

function ball(): { kit: Kit; blobs: MemoryBlobs } {
  const made = chainKit([
    { id: 'a', translation: [0.5, 1, 0], rotation: quatFromTurn([10, 20, 30], 'xyz') },
    { id: 'b', translation: [0, 1, 0], rotation: quatFromTurn([0, 40, 0], 'xyz') },
    { id: 'c', translation: [1, 0, 0] },
  ]);
  putSphere(made.kit, made.blobs, 'ball', 8);
  made.kit.parts.b.mesh = 'ball';
  return made;
}

const how = fc.record({
  place: fc.constantFrom('below' as const, 'beside' as const),
  pivot: fc.constantFrom('keep' as const, 'middle' as const, 'bottom' as const),
});

test('faces that are split off and joined again are the same triangles; nothing moves at any time', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(111), { minLength: 1, maxLength: 111 }), how, (faces, choice) => {
      const { kit: still, blobs } = ball();
      const kit = withMotion(still, blobs, 'a', 'turn', 1, [0, 90, -30]);
      const split = run(kit, blobs, callOf(splitFaces, { part: 'b', faces: runsOf(faces), id: 'cut', name: 'cut', ...choice }));
      expect(triangles(split, blobs)).toEqual(triangles(kit, blobs));
      for (const time of TIMES)
        bounds(worldVertices(split, blobs, 'clip', time)).forEach((value, i) =>
          expect(value).toBeCloseTo(bounds(worldVertices(kit, blobs, 'clip', time))[i], 5),
        );
      const joined = run(split, blobs, callOf(joinParts, { into: 'b', parts: ['cut', 'b'] }));
      expect(triangles(joined, blobs)).toEqual(triangles(kit, blobs));
      expect(Object.keys(joined.parts).sort()).toEqual(['a', 'b', 'c']);
      expect(joined.meshes[joined.parts.b.mesh!].primitives).toHaveLength(1);
    }),
    { numRuns: 30 },
  );
});

test('a piece beside one that moves by itself moves along; with another pivot it is refused', () => {
  const { kit: still, blobs } = ball();
  const kit = withMotion(still, blobs, 'b', 'turn', 0, [0, 90, -30]);
  const split = run(
    kit,
    blobs,
    callOf(splitFaces, { part: 'b', faces: [[0, 40]], id: 'cut', name: 'cut', place: 'beside', pivot: 'keep' }),
  );
  for (const time of TIMES) {
    const before = bounds(worldVertices(kit, blobs, 'clip', time));
    bounds(worldVertices(split, blobs, 'clip', time)).forEach((value, i) => expect(value).toBeCloseTo(before[i], 5));
  }
  const call = callOf(splitFaces, { part: 'b', faces: [[0, 40]], name: 'cut', place: 'beside', pivot: 'middle' });
  expect(() => run(kit, blobs, call)).toThrow(/moves by itself/);
  expect(() => run(split, blobs, callOf(joinParts, { into: 'b', parts: ['b', 'cut'] }))).toThrow(/moves by itself in “clip”/);
});

const bounds = (vertices: ArrayLike<number>) =>
  [0, 1, 2].flatMap((axis) => {
    const values = Array.from(vertices).filter((_, i) => i % 3 === axis);
    return [Math.min(...values), Math.max(...values)];
  });

test('all faces, no faces, one piece and one material can not be split off', () => {
  const { kit, blobs } = ball();
  const with_ = { part: 'b', place: 'below', pivot: 'keep' } as const;
  expect(() => run(kit, blobs, callOf(splitFaces, { ...with_, faces: [[0, 120]], name: 'cut' }))).toThrow(/nothing would be left/);
  expect(() => run(kit, blobs, callOf(splitFaces, { ...with_, faces: [[500, 3]], name: 'cut' }))).toThrow(/no face is chosen/);
  expect(() => run(kit, blobs, callOf(splitLoose, with_))).toThrow(/one piece/);
  expect(() => run(kit, blobs, callOf(splitByMaterial, with_))).toThrow(/one piece/);
});

test('loose pieces become parts: as many as there are, the largest stays', () => {
  const { kit, blobs } = ball();
  const joined = run(kit, blobs, callOf(joinParts, { into: 'b', parts: ['b', 'c'] }));
  const split = run(joined, blobs, callOf(splitLoose, { part: 'b', place: 'beside', pivot: 'middle' }));
  expect(
    Object.values(split.parts)
      .map((part) => part.name)
      .sort(),
  ).toEqual(['a', 'b', 'b_2']);
  expect(triangles(split, blobs)).toEqual(triangles(kit, blobs));
});

test('a plane cuts exactly: both sides keep their area, and lie on their own side', () => {
  const component = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(fc.tuple(component, component, component), fc.double({ min: -0.6, max: 0.6, noNaN: true }), ([x, y, z], off) => {
      const length = Math.hypot(x, y, z);
      fc.pre(length > 0.1);
      const normal = [x / length, y / length, z / length] as [number, number, number];
      const at = normal.map((value) => value * off) as [number, number, number];
      const { kit, blobs } = ball();
      const cut = run(kit, blobs, callOf(splitByPlane, { part: 'b', at, normal, id: 'half', name: 'half', place: 'below', pivot: 'keep' }));
      expect(areaOf(cut, blobs, 'b') + areaOf(cut, blobs, 'half')).toBeCloseTo(areaOf(kit, blobs, 'b'), 4);
      for (const [id, side] of [
        ['b', -1],
        ['half', 1],
      ] as const)
        for (const primitive of cut.meshes[cut.parts[id].mesh!].primitives) {
          const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
          for (let v = 0; v < positions.length; v += 3)
            expect(side * ([0, 1, 2].reduce((sum, axis) => sum + positions[v + axis] * normal[axis], 0) - off)).toBeGreaterThan(-1e-5);
        }
    }),
    { numRuns: 30 },
  );
});

function areaOf(kit: Kit, blobs: MemoryBlobs, id: string): number {
  return kit.meshes[kit.parts[id].mesh!].primitives.reduce((sum, { attributes, indices }) => {
    const p = readArray<Float32Array>(blobs, attributes.POSITION);
    const list = readArray<Uint32Array>(blobs, indices);
    for (let t = 0; t < list.length; t += 3) {
      const [u, v] = [1, 2].map((k) => [0, 1, 2].map((axis) => p[3 * list[t + k] + axis] - p[3 * list[t] + axis]));
      sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    }
    return sum;
  }, 0);
}

test('a twin is the mirror image, without any scale turned over; a twin of the twin is the original', () => {
  const angle = fc.double({ min: -180, max: 180, noNaN: true });
  fc.assert(
    fc.property(
      fc.tuple(angle, angle, angle),
      fc.constantFrom(0 as const, 1 as const, 2 as const),
      fc.double({ min: -2, max: 2, noNaN: true }),
      (turn, axis, at) => {
        const { kit, blobs } = ball();
        kit.parts.a.rotation = quatFromTurn(turn, 'xyz');
        const mirrored = run(kit, blobs, callOf(mirrorParts, { parts: ['a'], axis, at, names: { a: 'twin', b: 'twin_b', c: 'twin_c' } }));
        const twin = Object.values(mirrored.parts).find((part) => part.name === 'twin')!;
        for (const part of Object.values(mirrored.parts)) expect(part.scale).toEqual([1, 1, 1]);
        const reflect = (text: string) => reflected(text, axis, at);
        const own = triangles(kit, blobs);
        const all = triangles(mirrored, blobs);
        expect(all).toHaveLength(2 * own.length);
        const twice = run(
          mirrored,
          blobs,
          callOf(mirrorParts, {
            parts: [twin.id],
            axis,
            at,
            names: Object.fromEntries(Object.values(mirrored.parts).map(({ id, name }) => [id, `${name}_again`])),
          }),
        );
        const before = worldVertices(kit, blobs);
        expect(
          greatestDifference(worldVertices(only(twice, { a: 'twin_again', b: 'twin_b_again', c: 'twin_c_again' }), blobs), before),
        ).toBeLessThanOrEqual(1e-5 * extentOf(before));
        expect(middleOf(own.map(reflect))).toEqual(middleOf(all.filter((one) => !own.includes(one))));
      },
    ),
    { numRuns: 30 },
  );
});

/** A kit of those parts alone that bear certain names, under other ids. */
function only(kit: Kit, nameOf: Record<string, string>): Kit {
  const idOf = new Map(
    Object.values(kit.parts).flatMap((part) =>
      Object.entries(nameOf).flatMap(([id, name]) => (name === part.name ? [[part.id, id] as const] : [])),
    ),
  );
  const parts = [...idOf].map(([old, id]) => ({
    ...kit.parts[old],
    id,
    parent: kit.parts[old].parent === null ? null : idOf.get(kit.parts[old].parent)!,
  }));
  return { ...kit, parts: Object.fromEntries(parts.sort((a, b) => (a.id < b.id ? -1 : 1)).map((part) => [part.id, part])) };
}

const numbers = (text: string) => text.split(' | ').map((corner) => corner.split(' ')[0].split(',').map(Number));
const reflected = (text: string, axis: number, at: number) =>
  numbers(text)
    .map((corner) => corner.map((value, i) => (i === axis ? 2 * at - value : value)).join(','))
    .join(' | ');

function middleOf(texts: string[]): string[] {
  const corners = texts.flatMap(numbers);
  return [0, 1, 2].map((axis) =>
    (corners.reduce((sum, corner) => sum + corner[axis], 0) / corners.length).toFixed(2).replace('-0.00', '0.00'),
  );
}

test('normals of a twin look outward as those of the original do', () => {
  const { kit, blobs } = ball();
  const mirrored = run(kit, blobs, callOf(mirrorParts, { parts: ['b'], axis: 0, at: 0, names: { b: 'twin' } }));
  const twin = Object.values(mirrored.parts).find((part) => part.name === 'twin')!;
  const [primitive] = mirrored.meshes[twin.mesh!].primitives;
  const p = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const n = readArray<Float32Array>(blobs, primitive.attributes.NORMAL);
  for (let i = 0; i < p.length; i += 3) expect(p[i] * n[i] + p[i + 1] * n[i + 1] + p[i + 2] * n[i + 2]).toBeGreaterThan(0.99);
});

test('a pivot is copied to the twin, mirrored, and nothing moves', () => {
  const { kit, blobs } = ball();
  const next = run(kit, blobs, callOf(pivotToTwin, { from: 'a', to: 'c', axis: 0, at: 0 }));
  const [from, to] = ['a', 'c'].map((id) => [...restWorlds(next).get(id)!.subarray(12, 15)]);
  expect(to[0]).toBeCloseTo(-from[0], 9);
  expect(to[1]).toBeCloseTo(from[1], 9);
  expect(greatestDifference(worldVertices(next, blobs), worldVertices(kit, blobs))).toBeLessThan(1e-5);
});
