import fc from 'fast-check';
import { decode, encode } from 'fast-png';
import {
  callOf,
  checkKit,
  emptyKit,
  KitError,
  MemoryBlobs,
  newMaterial,
  newPart,
  putArray,
  readArray,
  type Axis,
  type Kit,
  type Rgba,
  type TextureSlot,
} from '../document';
import { posedVertices, quatFromTurn, restWorlds, transformPoint } from '../geometry';
import { run } from '../tests/helpers';
import { oddKit } from '../tests/odd-kits';
import { makeBlur } from './blur-stand-in';
import { isShown } from './switches';

type Corner = [number, number, number];

/** A closed box between two corners, every face wound outward. */
function boxFaces(min: Corner, max: Corner): Corner[] {
  const at = (i: number): Corner => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]];
  const quads = [
    [0, 4, 6, 2],
    [1, 3, 7, 5],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 2, 3, 1],
    [4, 5, 7, 6],
  ];
  return quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d].map(at));
}

/** Triangles of a ring about x between two radii, from −`half` to `half`. */
function ringFaces(inner: number, outer: number, half: number, corners = 96): Corner[] {
  const out: Corner[] = [];
  const profile = [
    [inner, half],
    [inner, -half],
    [outer, -half],
    [outer, half],
  ];
  for (let s = 0; s < corners; s++)
    profile.forEach(([r0, h0], k) => {
      const [r1, h1] = profile[(k + 1) % 4];
      const point = (r: number, h: number, n: number): Corner => {
        const angle = (2 * Math.PI * (n % corners)) / corners;
        return [h, r * Math.cos(angle), r * Math.sin(angle)];
      };
      const [a, b, c, d] = [point(r0, h0, s), point(r1, h1, s), point(r1, h1, s + 1), point(r0, h0, s + 1)];
      out.push(a, b, c, a, c, d);
    });
  return out;
}

/** Arms about x: boxes of a width from one radius to another, each turned on by an equal share. */
function arms(number: number, width: number, from: number, to: number, half: number): Corner[] {
  return Array.from({ length: number }, (_, i) => (2 * Math.PI * i) / number).flatMap((angle) =>
    boxFaces([-half, from, -width / 2], [half, to, width / 2]).map(([x, y, z]): Corner => [
      x,
      y * Math.cos(angle) - z * Math.sin(angle),
      y * Math.sin(angle) + z * Math.cos(angle),
    ]),
  );
}

/** A kit with a base, and a part `wheel` on it whose meshes are of these colours. */
function wheelKit(paints: [colour: Rgba, faces: Corner[]][], blobs: MemoryBlobs): Kit {
  const kit = emptyKit('Wheel');
  kit.parts.base = newPart({ id: 'base', name: 'base', rotation: quatFromTurn([20, 30, 40], 'xyz'), translation: [1, 2, 3] });
  kit.parts.wheel = newPart({ id: 'wheel', name: 'wheel', parent: 'base', mesh: 'mesh', translation: [0.5, 0, 0], scale: [2, 2, 2] });
  kit.meshes.mesh = {
    id: 'mesh',
    name: 'mesh',
    primitives: paints.map(([baseColor, faces], i) => {
      kit.materials[`m${i}`] = newMaterial({ id: `m${i}`, name: `m${i}`, baseColor, metallic: 0.5, roughness: 0.25 });
      return {
        material: `m${i}`,
        attributes: { POSITION: putArray(blobs, Float32Array.from(faces.flat()), 3) },
        indices: putArray(
          blobs,
          Uint32Array.from(faces, (_, k) => k),
          1,
        ),
      };
    }),
  };
  return kit;
}

const args = { part: 'wheel', axis: 0 as Axis, variable: 'speed', index: 0, from: 30, bothWays: false, cut: false };

/** What was made: its outline with what its texture has there, in metres of the world about the axis. */
function standIn(kit: Kit, blobs: MemoryBlobs, more: Partial<typeof args> = {}) {
  const after = run(kit, blobs, callOf(makeBlur, { ...args, ...more }));
  const part = Object.values(after.parts).find(({ id }) => !(id in kit.parts))!;
  const [primitive] = after.meshes[part.mesh!].primitives;
  const material = after.materials[primitive.material!];
  const { data, width, height } = decode(blobs.get(after.images[material.baseColorTexture!.image].blob));
  const uvs = readArray<Float32Array>(blobs, primitive.attributes.TEXCOORD_0);
  const positions = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const axis = more.axis ?? 0;
  const rims = Array.from({ length: positions.length / 3 }, (_, v) => ({
    radius: Math.hypot(positions[3 * v + ((axis + 1) % 3)], positions[3 * v + ((axis + 2) % 3)]),
    along: positions[3 * v + axis],
    u: uvs[2 * v],
  }));
  /** Mean coverage at a texel of the outline, by all of its rows. */
  const alphaAt = (x: number) =>
    Array.from({ length: height }, (_, y) => data[4 * (y * width + x) + 3] / 255).reduce((a, b) => a + b) / height;
  return { after, part, material, rims, data, width, height, alphaAt, triangles: primitive.indices.count / 3, primitive };
}

/** Where in the texture the outline is at a radius on the side at the high end of the axis; null where it has no side there. */
function texelOn({ rims, width }: ReturnType<typeof standIn>, radius: number): number | null {
  const top = Math.max(...rims.map(({ along }) => along));
  // Corners come in pairs: both ends of a stretch of the outline.
  const stretch = rims.findIndex(
    ({ along, radius: out }, v) =>
      v % 2 === 0 && [along, rims[v + 1].along].every((at) => at > top - 1e-3) && rims[v + 1].radius <= radius && radius < out,
  );
  if (stretch < 0) return null;
  const [high, low] = [rims[stretch], rims[stretch + 1]];
  const share = (radius - low.radius) / (high.radius - low.radius);
  return Math.floor((low.u + share * (high.u - low.u)) * width);
}

test('a wheel of a solid rim and arms is opaque at the rim, and as much covered between as its arms are wide', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit(
    [
      [[0.5, 0, 0, 1], ringFaces(0.9, 1, 0.2)],
      [[0, 0, 0.5, 1], arms(5, 0.2, 0.05, 0.92, 0.2)],
    ],
    blobs,
  );
  const made = standIn(kit, blobs);
  // The part is twice as large in the world as it was drawn.
  expect(Math.max(...made.rims.map(({ radius }) => radius))).toBeCloseTo(2, 2);
  expect(Math.max(...made.rims.map(({ along }) => along))).toBeCloseTo(0.4, 3);
  expect(Math.min(...made.rims.map(({ along }) => along))).toBeCloseTo(-0.4, 3);
  expect(made.alphaAt(texelOn(made, 1.9)!)).toBe(1);
  for (const radius of [0.6, 0.9, 1.2, 1.5]) {
    // Half the width of an arm seen from the axis, twice, five times.
    const share = (5 * 2 * Math.asin(0.2 / radius)) / (2 * Math.PI);
    expect(Math.abs(made.alphaAt(texelOn(made, radius)!) - share)).toBeLessThan(0.03);
  }
  const colour = (x: number) => [0, 1, 2].map((i) => made.data[4 * x + i]);
  expect(colour(texelOn(made, 1.9)!)).toEqual([188, 0, 0]);
  expect(colour(texelOn(made, 1.2)!)).toEqual([0, 0, 188]);
  expect(made.material).toMatchObject({ metallic: 0.5, roughness: 0.25, alphaMode: 'BLEND' });
});

test('a stand-in is the same all about its axis, faces outward, and stands where the part stands', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit([[[1, 1, 1, 1], arms(3, 0.3, 0, 1, 0.1)]], blobs);
  const { after, part, primitive } = standIn(kit, blobs);
  const points = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const normals = readArray<Float32Array>(blobs, primitive.attributes.NORMAL);
  const indices = readArray<Uint32Array>(blobs, primitive.indices);
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => points.subarray(3 * indices[i + k], 3 * indices[i + k] + 3));
    const n = [0, 1, 2].map((k) => {
      const [p, q] = [(k + 1) % 3, (k + 2) % 3];
      return (b[p] - a[p]) * (c[q] - a[q]) - (b[q] - a[q]) * (c[p] - a[p]);
    });
    expect([0, 1, 2].reduce((sum, k) => sum + n[k] * normals[3 * indices[i] + k], 0)).toBeGreaterThan(0);
  }
  // Turned by one of its 32 corners it is itself again.
  const turn = quatFromTurn([360 / 32, 0, 0], 'xyz');
  const turned = run(after, blobs, {
    operation: 'shape.set-transform',
    args: { part: part.id, rotation: turn, translation: [0, 0, 0], scale: [1, 1, 1] },
  });
  const still = run(after, blobs, {
    operation: 'shape.set-transform',
    args: { part: part.id, rotation: [0, 0, 0, 1], translation: [0, 0, 0], scale: [1, 1, 1] },
  });
  const of = (one: Kit) => {
    const worlds = restWorlds(one);
    return posedVertices(one, blobs, one.parts[part.id], (id) => worlds.get(id)!);
  };
  const [here, there] = [of(still), of(turned)];
  for (let v = 0; v < here.length; v += 3) {
    let nearest = Infinity;
    for (let w = 0; w < there.length; w += 3)
      nearest = Math.min(nearest, Math.hypot(here[v] - there[w], here[v + 1] - there[w + 1], here[v + 2] - there[w + 2]));
    expect(nearest).toBeLessThan(1e-5);
  }
  const worlds = restWorlds(after);
  const [own, its] = [part.id, 'wheel'].map((id) => transformPoint(worlds.get(id)!, [0, 0, 0]));
  own.forEach((value, i) => expect(value).toBeCloseTo(its[i], 12));
  expect(part.parent).toBe('base');
  expect(part.scale).toEqual([1, 1, 1]);
});

test('of the part and its stand-in one is shown at every value, on both ways where asked', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit([[[1, 1, 1, 1], arms(3, 0.3, 0, 1, 0.1)]], blobs);
  for (const bothWays of [false, true]) {
    const { after, part } = standIn(kit, blobs, { bothWays });
    const of = (id: string) => after.switches!.find((one) => one.part === id)!;
    expect(of('wheel').among).toBe(of(part.id).among);
    for (const value of [-90, -30.01, -30, -1, 0, 29.99, 30, 90]) {
      expect(isShown(of('wheel'), value)).toBe(!isShown(of(part.id), value));
      expect(isShown(of(part.id), value)).toBe(value >= 30 || (bothWays && value < -30));
    }
  }
});

test('where materials can’t be blended, as many rows are there as the share that is covered', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit([[[1, 1, 1, 1], arms(5, 0.2, 0.05, 0.92, 0.2)]], blobs);
  const [blended, cut] = [standIn(kit, blobs), standIn(kit, blobs, { cut: true })];
  expect(cut.material.alphaMode).toBe('MASK');
  for (let x = 0; x < cut.width; x++) expect(Math.abs(cut.alphaAt(x) - blended.alphaAt(x))).toBeLessThan(1 / 64 + 1 / 255);
  expect(new Set(cut.data.filter((_, i) => i % 4 === 3))).toEqual(new Set([0, 255]));
});

test('what is solid all about is opaque as a whole, and its shape that of the part', () => {
  const blobs = new MemoryBlobs();
  const made = standIn(wheelKit([[[1, 1, 1, 1], ringFaces(0.5, 1, 0.25)]], blobs), blobs, { cut: true });
  expect(made.material.alphaMode).toBe('OPAQUE');
  // A ring: four bands of two triangles for each of 32 corners.
  expect(made.triangles).toBe(4 * 32 * 2);
  expect(Math.min(...made.rims.map(({ radius }) => radius))).toBeCloseTo(1, 1);
});

test('what can’t be blurred is said: no mesh, nothing off the axis, switched already', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit([[[1, 1, 1, 1], arms(3, 0.3, 0, 1, 0.1)]], blobs);
  const bare = { ...kit, parts: { ...kit.parts, wheel: { ...kit.parts.wheel, mesh: null } } };
  expect(() => run(bare, blobs, callOf(makeBlur, args))).toThrow(/“wheel” shows nothing off its own x axis/);
  const thin = wheelKit([[[1, 1, 1, 1], boxFaces([-1, 0.99, -0.001], [1, 1, 0.001])]], blobs);
  expect(() => run(thin, blobs, callOf(makeBlur, args))).toThrow(/less than a fiftieth of a turn/);
  const once = run(kit, blobs, callOf(makeBlur, args));
  expect(() => run(once, blobs, callOf(makeBlur, args))).toThrow(/shown and hidden by something already/);
  expect(() => run(kit, blobs, callOf(makeBlur, { ...args, bothWays: true, from: 0 }))).toThrow(/begin above 0/);
});

test('colours of a texture are taken where the surface has them, linear and averaged', () => {
  const blobs = new MemoryBlobs();
  const kit = wheelKit([[[1, 1, 1, 1], ringFaces(0.5, 1, 0.25)]], blobs);
  const [primitive] = kit.meshes.mesh.primitives;
  // Left half of the picture green, right half dark; all of the ring reads the left one but its rim of 0.95 and up.
  const points = readArray<Float32Array>(blobs, primitive.attributes.POSITION);
  const uvs = Float32Array.from({ length: (2 * points.length) / 3 }, (_, i) => (i % 2 === 0 ? 0.25 : 0.5));
  primitive.attributes.TEXCOORD_0 = putArray(blobs, uvs, 2);
  const data = Uint8Array.from([0, 200, 0, 10, 10, 10]);
  const bytes = encode({ width: 2, height: 1, channels: 3, depth: 8, data });
  kit.images.img = { id: 'img', name: 'img', mediaType: 'image/png', blob: blobs.put(bytes), bytes: bytes.length, width: 2, height: 1 };
  kit.materials.m0.baseColorTexture = { image: 'img', texCoord: 0, wrapS: 10497, wrapT: 10497 };
  const made = standIn(kit, blobs);
  for (let x = 0; x < made.width; x++) expect([0, 1, 2].map((i) => made.data[4 * x + i])).toEqual([0, 200, 0]);
  const slot: TextureSlot = { ...kit.materials.m0.baseColorTexture!, transform: { offset: [0.5, 0], rotation: 0, scale: [1, 1] } };
  const moved = { ...kit, materials: { m0: { ...kit.materials.m0, baseColorTexture: slot } } };
  expect([...standIn(moved, blobs).data.subarray(0, 3)]).toEqual([10, 10, 10]);
});

/**
 * How much of a turn a straight look from a place of the outline inward meets anything: rays against every triangle (Möller & Trumbore
 * 1997).
 */
function lookedIn(faces: Corner[], from: [radius: number, along: number], inward: [number, number], most: number): number {
  let hits = 0;
  const turns = 361;
  for (let n = 0; n < turns; n++) {
    const angle = (2 * Math.PI * (n + 0.37)) / turns;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const o = [from[1], from[0] * cos, from[0] * sin];
    const d = [inward[1], inward[0] * cos, inward[0] * sin];
    for (let i = 0; i < faces.length; i += 3) {
      const [a, b, c] = [faces[i], faces[i + 1], faces[i + 2]];
      const u = b.map((value, k) => value - a[k]);
      const v = c.map((value, k) => value - a[k]);
      const p = [d[1] * v[2] - d[2] * v[1], d[2] * v[0] - d[0] * v[2], d[0] * v[1] - d[1] * v[0]];
      const det = u[0] * p[0] + u[1] * p[1] + u[2] * p[2];
      if (Math.abs(det) < 1e-12) continue;
      const s = o.map((value, k) => value - a[k]);
      const x = (s[0] * p[0] + s[1] * p[1] + s[2] * p[2]) / det;
      const q = [s[1] * u[2] - s[2] * u[1], s[2] * u[0] - s[0] * u[2], s[0] * u[1] - s[1] * u[0]];
      const y = (d[0] * q[0] + d[1] * q[1] + d[2] * q[2]) / det;
      const t = (v[0] * q[0] + v[1] * q[1] + v[2] * q[2]) / det;
      if (x >= 0 && y >= 0 && x + y <= 1 && t >= 0 && t <= most) {
        hits++;
        break;
      }
    }
  }
  return hits / turns;
}

test('coverage is that of rays sent in all about, for any wheels', () => {
  const size = fc.double({ min: 0.1, max: 1, noNaN: true });
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 12 }), size, size, size, fc.boolean(), (number, width, reach, half, rim) => {
      const faces = [
        ...arms(number, (0.9 * width * 2 * Math.PI) / number / 4, 0.2, 0.2 + reach, half),
        ...(rim ? ringFaces(0.6, 0.8, half) : []),
      ];
      const blobs = new MemoryBlobs();
      const made = standIn(wheelKit([[[1, 1, 1, 1], faces]], blobs), blobs);
      for (const radius of [0.3, 0.6, 0.9]) {
        const texel = texelOn(made, 2 * radius);
        if (texel === null) continue;
        const told = made.alphaAt(texel);
        // A texel is the mean of nothing: it stands for its middle, and a cell is there as soon as it is touched.
        const near = [-0.025, 0, 0.025].map((off) => lookedIn(faces, [radius + off, half + 0.01], [0, -1], 2 * half + 0.02));
        expect(told).toBeGreaterThan(Math.min(...near) - 0.04);
        expect(told).toBeLessThan(Math.max(...near) + 0.04);
      }
    }),
    { numRuns: 5, endOnFailure: true },
  );
});

test('an open ring has no inside: it covers what its surface covers, and a wheel that is squeezed to nothing is refused in a sentence', () => {
  const blobs = new MemoryBlobs();
  // Without the two sides of its rim: bands of what ringFaces makes, of which each second one stays.
  const faces = ringFaces(0.5, 1, 0.25).filter((_, corner) => Math.floor(corner / 6) % 2 === 0);
  const made = standIn(wheelKit([[[1, 1, 1, 1], faces]], blobs), blobs);
  const between = made.rims.filter(({ radius }) => radius > 1.1 && radius < 1.9);
  expect(between).toEqual([]);
  const flat = wheelKit([[[1, 1, 1, 1], ringFaces(0.5, 1, 0.25)]], blobs);
  for (const scale of [
    [0, 1, 1],
    [1, 0, 1],
    [0, 0, 0],
  ] as const) {
    const squeezed = { ...flat, parts: { ...flat.parts, wheel: { ...flat.parts.wheel, scale: [...scale] as [number, number, number] } } };
    expect(() => run(squeezed, blobs, callOf(makeBlur, args))).toThrow(/“wheel”/);
  }
});

test('of any part of a stranger’s kit a stand-in is made that the server takes, or a sentence says why not', () => {
  fc.assert(
    fc.property(oddKit, fc.nat(20), fc.constantFrom<Axis>(0, 1, 2), fc.boolean(), ({ kit, blobs }, at, axis, cut) => {
      const ids = Object.keys(kit.parts);
      if (ids.length === 0) return;
      const part = ids[at % ids.length];
      try {
        checkKit(run(kit, blobs, callOf(makeBlur, { ...args, part, axis, cut })));
      } catch (error) {
        expect(error).toBeInstanceOf(KitError);
        expect((error as KitError).message).toMatch(/^“[^]*” (shows nothing|covers less|has no size|is shown)|would skew/);
      }
    }),
    { numRuns: 12, endOnFailure: true },
  );
});
