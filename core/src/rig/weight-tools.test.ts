import fc from 'fast-check';
import { readArray, callOf, type Call, type Kit, type MemoryBlobs } from '../document';
import { flattenParts, Poser, posedVertices, runsOf, restWorlds } from '../geometry';
import { bodyKit, box, together, tube } from '../tests/bodies';
import { run } from '../tests/helpers';
import { dissolveJoints, insertJoint, mirrorJoints, moveJoint, moveTail, rollJoints } from './joint-operations';
import { headOf, jointsInOrder } from './rig-tree';
import { skinField } from './skin-field';
import { solveSkin } from './solve-skin';
import { WeightBrush, type BrushMode } from './weight-brush';
import {
  copyWeights,
  fillWeights,
  holdRigid,
  letGoOfSkin,
  mirrorWeights,
  pruneWeights,
  setVertexWeights,
  smoothWeights,
} from './weight-tools';
import { limitInfluences, normaliseWeights } from './weights-operations';

/** A trunk with an arm on either side, solved. */
function figure(): { kit: Kit; blobs: MemoryBlobs } {
  const surface = together(
    tube(0.06, 0, 0.8, 20, 12),
    box([0.04, 0.5, -0.04], [0.5, 0.6, 0.04], 6),
    box([-0.5, 0.5, -0.04], [-0.04, 0.6, 0.04], 6),
  );
  const { kit, blobs } = bodyKit(surface, [
    { id: 'trunk', parent: null, at: [0, 0.05, 0] },
    { id: 'top', parent: 'trunk', at: [0, 0.5, 0], tail: [0, 0.2, 0] },
    { id: 'arm_l', parent: 'top', at: [0.1, 0, 0] },
    { id: 'hand_l', parent: 'arm_l', at: [0.2, 0, 0], tail: [0.18, 0, 0] },
    { id: 'arm_r', parent: 'top', at: [-0.1, 0, 0] },
    { id: 'hand_r', parent: 'arm_r', at: [-0.2, 0, 0], tail: [-0.18, 0, 0] },
  ]);
  return { kit: run(kit, blobs, callOf(solveSkin, { parts: ['skin'], resolution: 40 })), blobs };
}
const made = figure();

function sumsAndCounts(kit: Kit, blobs: MemoryBlobs): { off: number; most: number; wrong: number } {
  let off = 0;
  let most = 0;
  let wrong = 0;
  for (const primitive of kit.meshes[kit.parts.skin.mesh!].primitives) {
    const weights = readArray<Float32Array>(blobs, primitive.attributes.WEIGHTS_0);
    const joints = readArray<Uint16Array>(blobs, primitive.attributes.JOINTS_0);
    for (let v = 0; v < weights.length; v += 4) {
      off = Math.max(off, Math.abs(weights[v] + weights[v + 1] + weights[v + 2] + weights[v + 3] - 1));
      most = Math.max(most, [0, 1, 2, 3].filter((k) => weights[v + k] > 0).length);
      for (let k = 0; k < 4; k++) if (joints[v + k] >= kit.skins[kit.parts.skin.skin!].joints.length) wrong++;
    }
  }
  return { off, most, wrong };
}

const restOf = (kit: Kit, blobs: MemoryBlobs) => {
  const poser = new Poser(flattenParts(kit));
  return posedVertices(kit, blobs, kit.parts.skin, (id) => poser.worldOf(id));
};

const furthest = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  let most = a.length === b.length ? 0 : Infinity;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
};

const joint = fc.constantFrom('trunk', 'top', 'arm_l', 'hand_l', 'arm_r', 'hand_r');
const share = fc.double({ min: 0, max: 1, noNaN: true });
const tools: fc.Arbitrary<Call> = fc.oneof(
  fc
    .tuple(joint, fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 200 }))
    .map(([one, first, count]) => callOf(holdRigid, { parts: ['skin'], joint: one, faces: [[first, count]] })),
  fc.constantFrom('left' as const, 'right' as const).map((from) => callOf(mirrorWeights, { parts: ['skin'], from })),
  fc
    .tuple(fc.integer({ min: 1, max: 5 }), share, fc.array(joint, { maxLength: 2 }))
    .map(([rounds, strength, locked]) => callOf(smoothWeights, { parts: ['skin'], rounds, strength, locked: [...new Set(locked)] })),
  share.map((below) => callOf(pruneWeights, { parts: ['skin'], below })),
  fc.integer({ min: 1, max: 4 }).map((most) => callOf(limitInfluences, { parts: ['skin'], most })),
  fc.constant(callOf(normaliseWeights, { parts: ['skin'] })),
  fc.constant(callOf(fillWeights, { parts: ['skin'] })),
  fc
    .tuple(joint, share, fc.array(fc.integer({ min: 0, max: 300 }), { minLength: 1, maxLength: 20 }))
    .map(([one, weight, vertices]) => callOf(setVertexWeights, { part: 'skin', vertices, weights: { [one]: weight } })),
  fc
    .tuple(fc.constantFrom('hand_l', 'hand_r', 'top'), share, share)
    .map(([one, x, y]) => callOf(moveJoint, { joint: one, at: [x - 0.5, y, 0.02] })),
);

test('after any tools weights add up to 1, at most four joints hold a vertex, and nothing moved at rest', () => {
  const before = restOf(made.kit, made.blobs);
  fc.assert(
    fc.property(fc.array(tools, { minLength: 1, maxLength: 4 }), (calls) => {
      const next = run(made.kit, made.blobs, ...calls);
      const { off, most, wrong } = sumsAndCounts(next, made.blobs);
      expect(off).toBeLessThan(1e-5);
      expect(most).toBeLessThanOrEqual(4);
      expect(wrong).toBe(0);
      expect(furthest(restOf(next, made.blobs), before)).toBeLessThan(1e-5);
    }),
    { numRuns: 40 },
  );
});

test('mirrored weights are each other’s, joint by twin joint; twice is the same as once', () => {
  const stray = run(made.kit, made.blobs, callOf(holdRigid, { parts: ['skin'], joint: 'trunk', faces: [[600, 60]] }));
  const once = run(stray, made.blobs, callOf(mirrorWeights, { parts: ['skin'], from: 'left' }));
  const field = skinField(once, ['skin'], made.blobs);
  const row = (p: number) => Object.fromEntries(field.joints.map((id, j) => [id, field.rows[p * field.joints.length + j]]));
  const byPlace = new Map(
    Array.from({ length: field.points.length / 3 }, (_, p) => [
      [...field.points.subarray(3 * p, 3 * p + 3)].map((value) => (value + 0).toFixed(5)).join(),
      p,
    ]),
  );
  let met = 0;
  let off = 0;
  for (const [place, p] of byPlace) {
    const [x, y, z] = place.split(',').map(Number);
    const twin = byPlace.get([-x + 0, y, z].map((value) => (value + 0).toFixed(5)).join());
    if (twin === undefined) continue;
    met++;
    const [own, other] = [row(p), row(twin)];
    for (const id of field.joints)
      off = Math.max(off, Math.abs(own[id] - other[id.replace(/_([lr])$/, (_, s: string) => (s === 'l' ? '_r' : '_l'))]));
  }
  expect(met).toBeGreaterThan(200);
  expect(off).toBeLessThan(1e-6);
  const twice = run(once, made.blobs, callOf(mirrorWeights, { parts: ['skin'], from: 'left' }));
  const again = skinField(twice, ['skin'], made.blobs);
  expect(furthest(again.rows, field.rows)).toBeLessThan(1e-6);
});

test('brushing keeps sums at 1, leaves locked joints alone, and reaches no further than its radius', () => {
  fc.assert(
    fc.property(
      fc.constantFrom<BrushMode>('add', 'take', 'smooth', 'set'),
      share,
      fc.double({ min: 0.02, max: 0.3, noNaN: true }),
      joint,
      fc.boolean(),
      share,
      (mode, strength, radius, one, symmetric, height) => {
        const field = skinField(made.kit, ['skin'], made.blobs);
        const before = field.rows.slice();
        const twins = field.joints.map((id) => field.joints.indexOf(id.replace(/_([lr])$/, (_, s: string) => (s === 'l' ? '_r' : '_l'))));
        const locked = one === 'trunk' ? [] : ['trunk'];
        const changed = new Set(
          new WeightBrush(field, twins).stamp(0.2, height, 0.04, { joint: one, mode, radius, strength, symmetric, locked }),
        );
        const width = field.joints.length;
        let offSum = 0;
        let moved = 0;
        let reached = 0;
        for (let p = 0; p < field.points.length / 3; p++) {
          const [x, y, z] = field.points.subarray(3 * p, 3 * p + 3);
          let sum = 0;
          for (let j = 0; j < width; j++) {
            sum += field.rows[p * width + j];
            if ((!changed.has(p) || locked.includes(field.joints[j])) && field.rows[p * width + j] !== before[p * width + j]) moved++;
          }
          offSum = Math.max(offSum, Math.abs(sum - 1));
          if (changed.has(p)) reached = Math.max(reached, Math.hypot((symmetric ? Math.abs(x) : x) - 0.2, y - height, z - 0.04));
        }
        expect(offSum).toBeLessThan(1e-4);
        expect(moved).toBe(0);
        expect(reached).toBeLessThan(radius + 0.005);
      },
    ),
    { numRuns: 60 },
  );
});

test('a dissolved joint leaves its weights to the one above; an inserted one holds nothing yet; nothing moves', () => {
  const before = skinField(made.kit, ['skin'], made.blobs);
  const dissolved = run(made.kit, made.blobs, callOf(dissolveJoints, { joints: ['hand_l'] }));
  const after = skinField(dissolved, ['skin'], made.blobs);
  expect(after.joints).not.toContain('hand_l');
  const columnOf = (field: typeof before, id: string, p: number) => field.rows[p * field.joints.length + field.joints.indexOf(id)];
  for (let p = 0; p < before.points.length / 3; p += 7)
    expect(columnOf(after, 'arm_l', p)).toBeCloseTo(columnOf(before, 'arm_l', p) + columnOf(before, 'hand_l', p), 5);
  expect(() => run(made.kit, made.blobs, callOf(dissolveJoints, { joints: ['trunk'] }))).not.toThrow();

  const inserted = run(made.kit, made.blobs, callOf(insertJoint, { id: 'elbow_l', name: 'elbow_l', above: 'hand_l' }));
  expect(inserted.parts.hand_l.parent).toBe('elbow_l');
  expect(headOf(restWorlds(inserted), 'elbow_l')[0]).toBeCloseTo(0.2, 6);
  expect(headOf(restWorlds(inserted), 'hand_l')[0]).toBeCloseTo(0.3, 6);
  expect(furthest(restOf(inserted, made.blobs), restOf(made.kit, made.blobs))).toBeLessThan(1e-5);
});

test('heads and tails move where they are told, twins to the mirrored place, the mesh stays', () => {
  const rest = restOf(made.kit, made.blobs);
  const next = run(
    made.kit,
    made.blobs,
    callOf(moveJoint, { joint: 'arm_l', at: [0.14, 0.53, 0.01], twin: 'arm_r' }),
    callOf(moveTail, { joint: 'hand_r', at: [-0.49, 0.52, 0], twin: 'hand_l' }),
  );
  const worlds = restWorlds(next);
  expect(headOf(worlds, 'arm_l')).toEqual([0.14, 0.53, 0.01].map((value) => expect.closeTo(value, 6)));
  expect(headOf(worlds, 'arm_r')).toEqual([-0.14, 0.53, 0.01].map((value) => expect.closeTo(value, 6)));
  expect(headOf(worlds, 'hand_l')[0]).toBeCloseTo(0.3, 6);
  expect(next.parts.hand_l.tail![0]).toBeCloseTo(0.19, 6);
  expect(furthest(restOf(next, made.blobs), rest)).toBeLessThan(1e-5);
  const alone = run(made.kit, made.blobs, callOf(dissolveJoints, { joints: ['hand_r', 'arm_r'] }));
  const mirrored = run(
    alone,
    made.blobs,
    callOf(mirrorJoints, {
      joints: ['arm_l', 'hand_l', 'top'],
      names: { arm_l: 'arm_r', hand_l: 'hand_r' },
      ids: { arm_l: 'new_arm', hand_l: 'new_hand' },
    }),
  );
  expect(jointsInOrder(mirrored)).toContain('new_hand');
  expect(mirrored.parts.new_hand.parent).toBe('new_arm');
  expect(mirrored.parts.new_arm.parent).toBe('top');
  expect(headOf(restWorlds(mirrored), 'new_hand')[0]).toBeCloseTo(-0.3, 6);
});

test('rolled joints lie along themselves with another axis towards a direction, and nothing moves in any pose', () => {
  const next = run(made.kit, made.blobs, callOf(rollJoints, { joints: ['arm_l', 'hand_l'], along: 1, toward: 2, direction: [0, 1, 0] }));
  const world = restWorlds(next).get('arm_l')!;
  expect([world[4], world[5], world[6]].map((value) => Number(value.toFixed(6)) + 0)).toEqual([1, 0, 0]);
  expect([world[8], world[9], world[10]].map((value) => Number(value.toFixed(6)) + 0)).toEqual([0, 1, 0]);
  expect(furthest(restOf(next, made.blobs), restOf(made.kit, made.blobs))).toBeLessThan(1e-5);
});

test('what is taken off its joints stands where it stood; copied weights are those of the nearest surface', () => {
  const bare = run(made.kit, made.blobs, callOf(letGoOfSkin, { parts: ['skin'] }));
  expect(bare.parts.skin.skin).toBeNull();
  expect(Object.keys(bare.skins)).toEqual([]);
  expect(furthest(restOf(bare, made.blobs), restOf(made.kit, made.blobs))).toBeLessThan(1e-5);
  // Two alike: one held, one not.
  const both = structuredClone(made.kit);
  both.parts.coat = { ...bare.parts.skin, id: 'coat', name: 'coat', mesh: 'coat' };
  both.meshes.coat = { ...bare.meshes[bare.parts.skin.mesh!], id: 'coat' };
  const copied = run(both, made.blobs, callOf(copyWeights, { from: ['skin'], to: ['coat'] }));
  const [a, b] = [skinField(copied, ['skin'], made.blobs), skinField(copied, ['coat'], made.blobs)];
  // Where the arms meet the trunk two surfaces are equally near.
  const off = Array.from({ length: a.points.length / 3 }, (_, p) =>
    Math.max(...a.joints.map((id, j) => Math.abs(b.rows[p * b.joints.length + b.joints.indexOf(id)] - a.rows[p * a.joints.length + j]))),
  );
  expect(off.filter((value) => value > 1e-4).length).toBeLessThan(0.02 * off.length);
});

test('faces held by one joint are held by that alone', () => {
  const next = run(made.kit, made.blobs, callOf(holdRigid, { parts: ['skin'], joint: 'hand_l', faces: runsOf([3, 4]) }));
  const field = skinField(next, ['skin'], made.blobs);
  for (const face of [3, 4])
    for (let corner = 0; corner < 3; corner++)
      expect(field.rows[field.corners[3 * face + corner] * field.joints.length + field.joints.indexOf('hand_l')]).toBe(1);
});

test('two boxes that share a side and are held by a joint each stay so, whatever is done to both at once', () => {
  const { kit, blobs } = bodyKit(box([0, 0, 0], [1, 1, 1], 1), [
    { id: 'low', parent: null, at: [0.5, 0.1, 0.5] },
    { id: 'high', parent: 'low', at: [0, 0.9, 0], tail: [0, 0.9, 0] },
  ]);
  const upper = bodyKit(box([0, 1, 0], [1, 2, 1], 1), []);
  kit.meshes.upper = { ...structuredClone(upper.kit.meshes.mesh), id: 'upper' };
  for (const [sha, bytes] of upper.blobs.entries()) blobs.load(sha, bytes);
  kit.parts.upper = { ...kit.parts.skin, id: 'upper', name: 'upper', mesh: 'upper' };
  const held = run(
    kit,
    blobs,
    callOf(holdRigid, { parts: ['skin'], joint: 'low' }),
    callOf(holdRigid, { parts: ['upper'], joint: 'high' }),
  );
  const tooled = run(
    held,
    blobs,
    callOf(smoothWeights, { parts: ['skin', 'upper'], rounds: 3 }),
    callOf(pruneWeights, { parts: ['skin', 'upper'], below: 0.1 }),
  );
  for (const [part, joint] of [
    ['skin', 'low'],
    ['upper', 'high'],
  ] as const) {
    const field = skinField(tooled, [part], blobs);
    const column = field.joints.indexOf(joint);
    for (let p = 0; p < field.points.length / 3; p++) expect(field.rows[p * field.joints.length + column]).toBe(1);
  }
});
