import fc from 'fast-check';
import { callOf, putArray, readArray, type Kit, type MemoryBlobs, type Primitive } from '../document';
import { flippedTriangles, wholeMesh } from '../geometry';
import { runChecks, type Rule } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { turnPartWindings } from './mend-surfaces';

type Point = [number, number, number];
type Corner = { at: Point; normal: Point };

/** Faces of four corners: a box about the origin, its outside outward, without the sides that are left out. */
function box(half: number, leftOut: string[] = []): Corner[][] {
  const faces: Corner[][] = [];
  for (const axis of [0, 1, 2])
    for (const sign of [1, -1]) {
      if (leftOut.includes(`${axis}${sign > 0 ? '+' : '-'}`)) continue;
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      const normal: Point = [0, 0, 0];
      normal[axis] = sign;
      const round: [number, number][] = [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ];
      const corners = round.map(([a, b]) => {
        const at: Point = [0, 0, 0];
        [at[axis], at[u], at[v]] = [sign * half, sign * a * half, b * half];
        return { at, normal };
      });
      faces.push(corners);
    }
  return faces;
}

const turned = (faces: Corner[][]) => faces.map((corners) => [...corners].reverse());
const normalsTurned = (faces: Corner[][]) =>
  faces.map((corners) => corners.map(({ at, normal }) => ({ at, normal: normal.map((value) => -value) as Point })));

function kitOf(faces: Corner[][]): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  const corners = faces.flat();
  const primitive: Primitive = {
    material: null,
    attributes: {
      POSITION: putArray(blobs, Float32Array.from(corners.flatMap(({ at }) => at)), 3),
      NORMAL: putArray(blobs, Float32Array.from(corners.flatMap(({ normal }) => normal)), 3),
    },
    indices: putArray(blobs, Uint32Array.from(faces.flatMap((_, f) => [0, 1, 2, 0, 2, 3].map((k) => 4 * f + k))), 1),
  };
  kit.meshes = { box: { id: 'box', name: 'box', primitives: [primitive] } };
  kit.parts.a = { ...kit.parts.a, mesh: 'box' };
  return { kit, blobs };
}

function volume(kit: Kit, blobs: MemoryBlobs): number {
  const { positions, indices } = wholeMesh(kit.meshes.box, blobs);
  let sum = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => positions[3 * indices[t + k] + axis]));
    sum += (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6;
  }
  return sum;
}

const rule: Rule = { id: 'asked', check: 'geometry.windings', grade: 'warn', why: 'A test asks.' };
const owed = (kit: Kit, blobs: MemoryBlobs) => runChecks({ kit, blobs, rulebook: { ...SHIPPED.plotwick, rules: [rule] } });
const mended = (kit: Kit, blobs: MemoryBlobs, unclear?: 'normals' | 'triangles') =>
  run(kit, blobs, callOf(turnPartWindings, { parts: ['a'], unclear }));
const against = (kit: Kit, blobs: MemoryBlobs) =>
  kit.meshes.box.primitives.reduce((sum, primitive) => sum + flippedTriangles(primitive, blobs), 0);

test('a sound solid owes nothing, and stays as it is', () => {
  const { kit, blobs } = kitOf(box(1));
  expect(volume(kit, blobs)).toBeCloseTo(8, 6);
  expect(owed(kit, blobs)).toEqual([]);
  expect(mended(kit, blobs).meshes).toEqual(kit.meshes);
});

test.each<[string, Corner[][]]>([
  ['normals that look inward', normalsTurned(box(1))],
  ['triangles that run inward', turned(box(1))],
  ['both inward', normalsTurned(turned(box(1)))],
  ['two of its sides turned', box(1).map((face, i) => (i < 2 ? turned([face])[0] : face))],
  ['normals of one side turned', box(1).map((face, i) => (i === 3 ? normalsTurned([face])[0] : face))],
])('of a closed solid the volume decides, and normals follow: %s', (_, faces) => {
  const { kit, blobs } = kitOf(faces);
  const [finding] = owed(kit, blobs);
  expect(finding.mend!.ways).toBeUndefined();
  const after = mended(kit, blobs);
  expect([volume(after, blobs), against(after, blobs), owed(after, blobs)]).toEqual([expect.closeTo(8, 6), 0, []]);
});

test('whatever sides and normals are turned, a solid comes out right, in one turn', () => {
  const masks = fc.array(fc.boolean(), { minLength: 6, maxLength: 6 });
  fc.assert(
    fc.property(masks, masks, (sides, normals) => {
      const faces = box(0.7).map((face, i) => {
        const one = sides[i] ? turned([face])[0] : face;
        return normals[i] ? normalsTurned([one])[0] : one;
      });
      const { kit, blobs } = kitOf(faces);
      const after = mended(kit, blobs);
      expect(volume(after, blobs)).toBeCloseTo(8 * 0.7 ** 3, 5);
      expect(against(after, blobs)).toBe(0);
      expect(owed(after, blobs)).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('of an open box that side is outside from which more is seen', () => {
  const open = box(1, ['1+']);
  for (const faces of [turned(open), normalsTurned(open)]) {
    const { kit, blobs } = kitOf(faces);
    const [finding] = owed(kit, blobs);
    expect(finding.mend!.ways).toBeUndefined();
    const after = mended(kit, blobs);
    // About the box’s middle each of its sides lies outward.
    expect(volume(after, blobs)).toBeCloseTo((8 * 5) / 6, 6);
    expect(against(after, blobs)).toBe(0);
    expect(owed(after, blobs)).toEqual([]);
  }
});

test('a room that is meant to be seen from within owes nothing where its normals say so', () => {
  const { kit, blobs } = kitOf(normalsTurned(turned(box(1, ['1+']))));
  expect(owed(kit, blobs)).toEqual([]);
});

test('of a flat sheet nothing tells: both ways are shown, and each settles it in its own way', () => {
  const sheet = box(1, ['0+', '0-', '1-', '2+', '2-']);
  const { kit, blobs } = kitOf(turned(sheet));
  const [finding] = owed(kit, blobs);
  expect(finding.mend!.ways!.map(({ title }) => title)).toEqual([
    'Turn the triangles to their normals',
    'Turn the normals to their triangles',
  ]);
  const { indices, attributes } = kit.meshes.box.primitives[0];
  const byNormals = mended(kit, blobs, 'normals').meshes.box.primitives[0];
  expect([byNormals.indices.blob === indices.blob, byNormals.attributes.NORMAL.blob === attributes.NORMAL.blob]).toEqual([false, true]);
  const byTriangles = mended(kit, blobs, 'triangles').meshes.box.primitives[0];
  expect(byTriangles.indices.blob).toBe(indices.blob);
  expect([...readArray<Float32Array>(blobs, byTriangles.attributes.NORMAL)].filter((value) => value !== 0)).toEqual([-1, -1, -1, -1]);
});

test('what lies within a solid may be its hollow: it is left alone where it agrees with its normals', () => {
  const hollow = [...box(1), ...normalsTurned(turned(box(0.8)))];
  const { kit, blobs } = kitOf(hollow);
  expect(owed(kit, blobs)).toEqual([]);
  expect(mended(kit, blobs).meshes).toEqual(kit.meshes);
  const thing = kitOf([...box(1), ...box(0.5)]);
  expect(owed(thing.kit, thing.blobs)).toEqual([]);
});
