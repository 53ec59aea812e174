import fc from 'fast-check';
import { readArray, callOf, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { flattenParts, Poser, posedVertices } from '../geometry';
import { bodyKit, box, glove, together, tube, type Surface } from '../tests/bodies';
import { run } from '../tests/helpers';
import { enclosedVolume } from './pose-figures';
import { skinField } from './skin-field';
import { solveSkin } from './solve-skin';

/** Vertices of the skin with some joints turned, degrees about x. */
function bent(kit: Kit, blobs: MemoryBlobs, turns: Record<string, number>): Float64Array {
  const poser = new Poser(flattenParts(kit));
  for (const [id, degrees] of Object.entries(turns)) poser.pose.turn[3 * poser.flat.indexOf.get(id)!] = degrees;
  poser.update();
  return posedVertices(kit, blobs, kit.parts.skin, (id) => poser.worldOf(id));
}

/** Shares of a joint by place. */
function sharesOf(kit: Kit, blobs: MemoryBlobs, joint: string): { at: Vec3; share: number }[] {
  const field = skinField(kit, ['skin'], blobs);
  const column = field.joints.indexOf(joint);
  return Array.from({ length: field.points.length / 3 }, (_, p) => ({
    at: [...field.points.subarray(3 * p, 3 * p + 3)] as Vec3,
    share: field.rows[p * field.joints.length + column],
  }));
}

const solved = (surface: Surface, joints: Parameters<typeof bodyKit>[1], options: object = {}) => {
  const { kit, blobs } = bodyKit(surface, joints);
  return { kit: run(kit, blobs, callOf(solveSkin, { parts: ['skin'], ...options })), blobs };
};

test('on an upright tube with two joints the weights fall monotonically, and a bend of 60° keeps 85 % of the volume', () => {
  const body = tube(0.05, 0, 0.6, 60, 24);
  const { kit, blobs } = solved(body, [
    { id: 'low', parent: null, at: [0, 0.02, 0] },
    { id: 'high', parent: 'low', at: [0, 0.28, 0], tail: [0, 0.28, 0] },
  ]);
  const shares = sharesOf(kit, blobs, 'high').filter(({ at }) => Math.hypot(at[0], at[2]) > 0.04);
  const means = Array.from({ length: 61 }, (_, ring) =>
    shares.filter(({ at }) => Math.round(at[1] * 100) === ring).reduce((sum, { share }) => sum + share / 24, 0),
  );
  means.forEach((mean, i) => i > 0 && expect(mean).toBeGreaterThanOrEqual(means[i - 1] - 1e-6));
  expect(means[0]).toBeLessThan(0.02);
  expect(means.at(-1)).toBeGreaterThan(0.98);
  const rest = enclosedVolume(bent(kit, blobs, {}), body.indices);
  expect(rest).toBeCloseTo(enclosedVolume(body.positions, body.indices), 9);
  expect(enclosedVolume(bent(kit, blobs, { high: 60 }), body.indices) / rest).toBeGreaterThan(0.85);
});

test('fingers 2 mm apart take no weight from each other, though the glove is open at the wrist', () => {
  const whole = glove();
  // Without the faces of the wrist.
  const open = {
    positions: whole.positions,
    indices: whole.indices.filter(
      (_, i) => ![0, 1, 2].every((n) => whole.positions[3 * whole.indices[3 * Math.floor(i / 3) + n] + 1] === 0),
    ),
  };
  expect(open.indices.length).toBeLessThan(whole.indices.length);
  for (const surface of [whole, open]) {
    const { kit, blobs } = solved(surface, [
      { id: 'palm', parent: null, at: [0, 0.005, 0] },
      { id: 'finger_l', parent: 'palm', at: [0.009, 0.055, 0], tail: [0, 0.055, 0] },
      { id: 'finger_r', parent: 'palm', at: [-0.009, 0.055, 0], tail: [0, 0.055, 0] },
    ]);
    for (const [joint, other] of [
      ['finger_l', -1],
      ['finger_r', 1],
    ] as const) {
      const strays = sharesOf(kit, blobs, joint).filter(({ at, share }) => at[1] > 0.062 && Math.sign(at[0]) === other && share > 0);
      expect(strays.map(({ at }) => at)).toEqual([]);
      const own = sharesOf(kit, blobs, joint).filter(({ at }) => at[1] > 0.09 && Math.sign(at[0]) === -other);
      expect(Math.min(...own.map(({ share }) => share))).toBeGreaterThan(0.9);
    }
  }
});

test('every vertex of many loose, open and overlapping pieces is held', () => {
  const pieces = together(
    tube(0.1, 0, 0.5, 8, 12),
    tube(0.08, 0.4, 0.9, 8, 12, [0.02, 0], false),
    box([0.3, 0.2, -0.05], [0.4, 0.3, 0.05]),
    box([-0.5, 0.8, 0], [-0.45, 0.85, 0.05], 1),
    tube(0.02, 0.95, 1.1, 4, 6, [0, 0.2], false),
  );
  const { kit, blobs } = solved(pieces, [
    { id: 'low', parent: null, at: [0, 0, 0] },
    { id: 'high', parent: 'low', at: [0, 0.45, 0], tail: [0.02, 0.45, 0] },
  ]);
  const weights = readArray<Float32Array>(blobs, kit.meshes.mesh.primitives[0].attributes.WEIGHTS_0);
  for (let v = 0; v < weights.length / 4; v++)
    expect(weights[4 * v] + weights[4 * v + 1] + weights[4 * v + 2] + weights[4 * v + 3]).toBeCloseTo(1, 6);
});

test('the same input gives the same bytes', () => {
  const once = () => {
    const { kit } = solved(tube(0.05, 0, 0.6, 20, 12), [
      { id: 'low', parent: null, at: [0, 0.02, 0] },
      { id: 'high', parent: 'low', at: [0, 0.28, 0], tail: [0, 0.28, 0] },
    ]);
    return kit.meshes.mesh.primitives[0].attributes;
  };
  expect(once()).toEqual(once());
});

test('sides that mirror each other are held alike, to 1e-6', () => {
  // A cross with arms to both sides; the arms' vertices are not in mirrored order.
  const arms = together(
    tube(0.05, 0, 0.8, 24, 16),
    box([0.03, 0.55, -0.04], [0.5, 0.65, 0.04], 9),
    box([-0.5, 0.55, -0.04], [-0.03, 0.65, 0.04], 9),
  );
  const { kit, blobs } = solved(arms, [
    { id: 'trunk', parent: null, at: [0, 0.05, 0] },
    { id: 'top', parent: 'trunk', at: [0, 0.55, 0], tail: [0, 0.2, 0] },
    { id: 'arm_l', parent: 'top', at: [0.12, 0.05, 0], tail: [0.36, 0, 0] },
    { id: 'arm_r', parent: 'top', at: [-0.12, 0.05, 0], tail: [-0.36, 0, 0] },
  ]);
  const left = sharesOf(kit, blobs, 'arm_l');
  const right = new Map(
    sharesOf(kit, blobs, 'arm_r').map(({ at, share }) => [`${(-at[0] + 0).toFixed(5)} ${at[1].toFixed(5)} ${at[2].toFixed(5)}`, share]),
  );
  let met = 0;
  for (const { at, share } of left) {
    const twin = right.get(`${(at[0] + 0).toFixed(5)} ${at[1].toFixed(5)} ${at[2].toFixed(5)}`);
    if (twin === undefined) continue;
    met++;
    expect(Math.abs(share - twin)).toBeLessThan(1e-6);
  }
  expect(met).toBeGreaterThan(0.95 * left.length);
});

test('binding moves nothing at rest, however part and joints stand', () => {
  const angle = fc.double({ min: -170, max: 170, noNaN: true });
  const turn = fc.tuple(angle, angle, angle) as fc.Arbitrary<Vec3>;
  fc.assert(
    fc.property(turn, turn, fc.double({ min: -1, max: 1, noNaN: true }), (one, two, x) => {
      const { kit, blobs } = bodyKit(
        tube(0.1, 0, 0.5, 4, 6),
        [
          { id: 'low', parent: 'skin', at: [0, 0.1, 0], turn: one },
          { id: 'high', parent: 'low', at: [0, 0.2, 0], turn: two, tail: [0, 0.1, 0] },
        ],
        { translation: [x, 1, 0] },
      );
      const before = bent(kit, blobs, {});
      const after = bent(run(kit, blobs, callOf(solveSkin, { parts: ['skin'], resolution: 16 })), blobs, {});
      after.forEach((value, i) => expect(Math.abs(value - before[i])).toBeLessThan(1e-5));
    }),
    { numRuns: 20 },
  );
});

test('a joint that stands outside holds from the nearest place inside, and says so; without joints there is a sentence', () => {
  const { kit, blobs } = bodyKit(tube(0.05, 0, 0.6, 20, 12), [
    { id: 'low', parent: null, at: [0, 0.02, 0], tail: [0, 0.3, 0] },
    { id: 'away', parent: 'low', at: [0.5, 0.5, 0], tail: [0.1, 0, 0] },
  ]);
  const next = run(kit, blobs, callOf(solveSkin, { parts: ['skin'] }));
  expect(Math.max(...sharesOf(next, blobs, 'away').map(({ share }) => share))).toBeGreaterThan(0.5);
  const bare = bodyKit(tube(0.05, 0, 0.6, 20, 12), []);
  expect(() => run(bare.kit, bare.blobs, callOf(solveSkin, { parts: ['skin'] }))).toThrow(/no joint to be held by/);
  expect(() => run(kit, blobs, callOf(solveSkin, { parts: ['low'] }))).toThrow(/has no mesh/);
});

/** A glove of four fingers 2 mm apart with three joints each; all of them below the palm, or each below the one before. */
function hand(chained: boolean) {
  const across = [-0.027, -0.009, 0.009, 0.027];
  const surface = together(
    box([-0.038, 0, -0.01], [0.038, 0.055, 0.01], 8),
    ...across.map((x, n) => tube(0.008, 0.05, 0.11 + 0.01 * (n % 2), 24, 16, [x, 0])),
  );
  const heights = [0.055, 0.078, 0.098];
  const joints = across.flatMap((x, f) =>
    heights.map((y, n) => {
      const under = chained && n > 0;
      const at: Vec3 = under ? [0, y - heights[n - 1], 0] : [x, y - 0.005, 0];
      return { id: `finger${f}_${n}`, parent: under ? `finger${f}_${n - 1}` : 'palm', at };
    }),
  );
  return { across, ...solved(surface, [{ id: 'palm', parent: null, at: [0, 0.005, 0] }, ...joints]) };
}

test('a flat list of joints, as capture hardware writes hands, holds as chains do: fingers take nothing from one another', () => {
  const [flat, chained] = [hand(false), hand(true)];
  const fields = [flat, chained].map(({ kit, blobs }) => skinField(kit, ['skin'], blobs));
  const columns = fields[0].joints.map((joint) => fields[1].joints.indexOf(joint));
  const width = columns.length;
  let worst = 0;
  let leak = 0;
  for (let p = 0; p < fields[0].points.length / 3; p++) {
    const [x, y] = [fields[0].points[3 * p], fields[0].points[3 * p + 1]];
    let apart = 0;
    columns.forEach((other, j) => {
      const share = fields[0].rows[p * width + j];
      apart += Math.abs(share - fields[1].rows[p * width + other]) / 2;
      const finger = /^finger(\d)/.exec(fields[0].joints[j]);
      if (finger && y > 0.065 && Math.abs(x - flat.across[Number(finger[1])]) > 0.009) leak = Math.max(leak, share);
    });
    worst = Math.max(worst, apart);
  }
  expect(leak).toBe(0);
  expect(worst).toBeLessThan(0.02);
});
