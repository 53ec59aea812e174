import fc from 'fast-check';
import { emptyKit, MemoryBlobs, newPart, putArray, callOf, type Kit, type Vec3 } from '../../document';
import { invertMatrix, multiplyMatrices, restWorlds, rotateVector, writeBindMatrices } from '../../geometry';
import { body, placesOf } from '../../tests/body';
import { run } from '../../tests/helpers';
import {
  adjustMotion,
  AS_IT_IS,
  fittedMotion,
  handContacts,
  LIBRARY,
  missingRoles,
  plantedSpans,
  rolesByName,
  segmentDistance,
  type FitChoices,
} from '.';
import { turnBetween, twoBone } from './two-bone';

const motionCalled = (id: string) => LIBRARY.find((one) => one.id === id)!;
const put = (kit: Kit, id: string, choices: Partial<FitChoices> = {}) =>
  run(
    kit,
    new MemoryBlobs(),
    ...fittedMotion(kit, {
      motion: motionCalled(id),
      clip: 'made',
      name: id,
      choices: { ...AS_IT_IS, inPlace: true, ...choices },
      rate: 30,
    }),
  );

test('two bones reach a place within reach, keep their lengths, and bend towards the pole', () => {
  const number = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(number, number, number, (x, y, z) => {
      fc.pre(Math.hypot(x, y, z) > 0.3 && Math.hypot(x, y, z) < 1.6 && Math.hypot(x, y) > 0.05);
      const { middle, end } = twoBone([0, 0, 0], [x, y, z], 1, 0.8, [0, 0, 1]);
      expect(Math.hypot(end[0] - x, end[1] - y, end[2] - z)).toBeLessThan(1e-6);
      expect(Math.hypot(...middle)).toBeCloseTo(1, 6);
      expect(Math.hypot(...middle.map((value, k) => value - end[k]))).toBeCloseTo(0.8, 6);
    }),
  );
  expect(twoBone([0, 0, 0], [5, 0, 0], 1, 1, [0, 1, 0]).end[0]).toBeCloseTo(2, 3);
});

test('a turn between two directions takes the one to the other, and its pole along', () => {
  const unit = fc
    .tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
    )
    .filter((v) => Math.hypot(...v) > 0.2);
  fc.assert(
    fc.property(unit, unit, (a, b) => {
      const pole: Vec3 = [0.3, 0.1, 1];
      fc.pre([a, b].every((v) => Math.abs(v[0] * 0.3 + v[1] * 0.1 + v[2]) / (Math.hypot(...v) * Math.hypot(...pole)) < 0.95));
      const turned = rotateVector(turnBetween(a, pole, b, pole), a);
      turned.forEach((value, k) => expect(value / Math.hypot(...a)).toBeCloseTo(b[k] / Math.hypot(...b), 6));
    }),
  );
});

test.each(LIBRARY.filter(({ skeleton, pose }) => skeleton === 'body' && pose(0.3).feet.foot_l).map(({ id }) => [id] as const))(
  '%s: planted feet stay within 5 mm, whatever the size of the body and however its axes lie',
  (id) => {
    const motion = motionCalled(id);
    expect(missingRoles(motion, rolesByName(body()))).toEqual([]);
    for (const [size, turned] of [
      [1, false],
      [0.6, false],
      [1.4, true],
    ] as const) {
      const kit = put(body(size, turned), id, { inPlace: false });
      const count = 200;
      const times = Array.from({ length: count + 1 }, (_, i) => (motion.seconds * i) / count);
      for (const side of ['l', 'r'] as const) {
        const places = placesOf(kit, `foot_${side}`, times);
        let start = -1;
        times.forEach((_, i) => {
          const { planted } = motion.pose(i / count).feet[`foot_${side}`]!;
          const again = i > 0 && motion.pose((i - 1) / count).feet[`foot_${side}`]!.planted;
          if (planted && !again) start = i;
          // The first and last sample of a stand are its corners.
          if (!planted || start < 0 || i === start) return;
          if (i + 1 <= count && !motion.pose((i + 1) / count).feet[`foot_${side}`]!.planted) return;
          const from = places[start + (start === 0 ? 0 : 1)];
          expect(Math.hypot(...places[i].map((value, k) => value - from[k]))).toBeLessThan(0.005);
        });
      }
    }
  },
);

test.each(LIBRARY.filter(({ skeleton, loop }) => skeleton === 'body' && loop === 'loop').map(({ id }) => [id] as const))(
  '%s in place ends where it begins',
  (id) => {
    const kit = put(body(), id);
    const { lengthSeconds, tracks } = kit.clips.made;
    expect(tracks.every(({ kind }) => kind === 'keys')).toBe(true);
    for (const part of ['hips', 'head', 'hand_l', 'foot_r']) {
      const [first, last] = placesOf(kit, part, [0, lengthSeconds]);
      first.forEach((value, k) => expect(Math.abs(value - last[k])).toBeLessThan(2e-3));
    }
  },
);

test.each(LIBRARY.filter(({ skeleton }) => skeleton === 'body').map(({ id }) => [id] as const))(
  '%s: keys are fewer than frames, and stand on them unless the motion is too quick for that',
  (id) => {
    const kit = put(body(), id, { stride: 1.2 });
    const { tracks, lengthSeconds } = kit.clips.made;
    const keys = tracks.flatMap((track) => (track.kind === 'keys' ? track.keys : []));
    expect(keys.filter(({ time }) => Math.abs(time * 30 - Math.round(time * 30)) < 1e-6).length).toBeGreaterThan(0.8 * keys.length);
    expect(keys.length).toBeLessThan(0.5 * tracks.length * 30 * lengthSeconds);
  },
);

test('mirrored, the left does what the right did; arms spread further out; hips go lower', () => {
  const [plain, other] = [put(body(), 'wave'), put(body(), 'wave', { mirrored: true })];
  for (const time of [0.5, 1.3]) {
    const [[left], [right]] = [placesOf(plain, 'hand_l', [time]), placesOf(other, 'hand_r', [time])];
    expect(right[0]).toBeCloseTo(-left[0], 2);
    expect(right[1]).toBeCloseTo(left[1], 2);
  }
  expect(placesOf(put(body(), 'idle', { armSpread: 20 }), 'hand_l', [1])[0][0]).toBeGreaterThan(
    placesOf(put(body(), 'idle'), 'hand_l', [1])[0][0] + 0.05,
  );
  expect(placesOf(put(body(), 'walk', { hipHeight: -0.1 }), 'hips', [0.4])[0][1]).toBeLessThan(
    placesOf(put(body(), 'walk'), 'hips', [0.4])[0][1] - 0.05,
  );
});

test('a foot that slides while it stands is found and pinned; the rest of the leg goes along', () => {
  const kit = structuredClone(put(body(), 'walk', { inPlace: false }));
  // The hips are pushed about, so that what stood slides.
  for (const track of kit.clips.made.tracks)
    if (track.kind === 'keys' && track.property === 'offset' && track.axis === 0)
      track.keys = track.keys.map((key, i) => ({ time: key.time, value: key.value + 0.006 * Math.sin(i), easing: 'curve' }));
  const times = Array.from({ length: 151 }, (_, i) => (1.1 * i) / 150);
  const slid = placesOf(kit, 'foot_l', times);
  const pinned = run(kit, new MemoryBlobs(), callOf(adjustMotion, { clip: 'made', choices: AS_IT_IS, pinned: true, planted: null }));
  const places = placesOf(pinned, 'foot_l', times);
  const spans = plantedSpans(slid, times);
  expect(spans.length).toBeGreaterThan(0);
  const spread = (all: Vec3[], [from, to]: [number, number]) =>
    Math.max(
      ...all.slice(from + 2, to - 1).map((place) => Math.hypot(...place.map((value, k) => value - all[Math.round((from + to) / 2)][k]))),
    );
  for (const span of spans) {
    if (span[1] - span[0] < 8) continue;
    expect(spread(places, span)).toBeLessThan(0.006);
    expect(spread(places, span)).toBeLessThan(Math.max(0.004, spread(slid, span)));
  }
  const said = { ...kit, motionRoles: { thigh_r: null, shin_l: 'foot_l', foot_l: 'shin_l' } };
  expect(() =>
    run(said, new MemoryBlobs(), callOf(adjustMotion, { clip: 'made', choices: AS_IT_IS, pinned: true, planted: null })),
  ).toThrow(/legs of three joints/);
});

/** Four legs below a trunk, the hind ones longer. */
function fourLegged(size: number): Kit {
  const kit = emptyKit('hound');
  const add = (id: string, parent: string | null, at: Vec3) =>
    (kit.parts[id] = newPart({
      id,
      name: id,
      role: 'joint',
      parent,
      order: Object.keys(kit.parts).length,
      translation: at.map((value) => value * size) as Vec3,
    }));
  add('hips', null, [0, 0.62, -0.35]);
  add('spine', 'hips', [0, 0, 0.3]);
  add('chest', 'spine', [0, -0.02, 0.35]);
  add('head', 'chest', [0, 0.2, 0.25]);
  for (const [side, s] of [
    ['l', 1],
    ['r', -1],
  ] as const)
    for (const [which, above, drop, lean] of [
      ['fore', 'chest', 0.25, 0.01],
      ['hind', 'hips', 0.27, 0.04],
    ] as const) {
      add(`${which}_upper_${side}`, above, [0.12 * s, -0.04, 0]);
      add(`${which}_lower_${side}`, `${which}_upper_${side}`, [0, -drop, lean]);
      add(`${which}_foot_${side}`, `${which}_lower_${side}`, [0, -drop, -lean]);
    }
  return kit;
}

test.each([0.6, 1])('four legs walk: each foot stands for a while within 5 mm, and leaves the ground (size %s)', (size) => {
  const motion = LIBRARY.find(({ skeleton }) => skeleton === 'four-legged')!;
  const hound = fourLegged(size);
  expect(missingRoles(motion, rolesByName(hound)).filter((role) => /foot|upper|lower/.test(role))).toEqual([]);
  const kit = put(hound, motion.id, { inPlace: false });
  const count = 200;
  const times = Array.from({ length: count + 1 }, (_, i) => (motion.seconds * i) / count);
  for (const foot of ['fore_foot_l', 'fore_foot_r', 'hind_foot_l', 'hind_foot_r'] as const) {
    const places = placesOf(kit, foot, times);
    const planted = times.map((_, i) => motion.pose(i / count).feet[foot]!.planted);
    // Well inside of a stand, a moment and the one ten samples later.
    const pairs = times.map((_, i) => i).filter((i) => i + 12 <= count && planted.slice(Math.max(0, i - 2), i + 13).every(Boolean));
    expect(pairs.length).toBeGreaterThan(20);
    for (const i of pairs) expect(Math.hypot(...places[i].map((value, k) => value - places[i + 10][k]))).toBeLessThan(0.005);
    const heights = places.map(([, y]) => y);
    expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.02 * size);
  }
});

test('segments: closed forms, and hands held against the thighs are found by frame', () => {
  expect(segmentDistance([0, 0, 0], [1, 0, 0], [0, 2, 0], [1, 2, 0])).toBeCloseTo(2, 9);
  expect(segmentDistance([0, 0, 0], [1, 0, 0], [0.5, -1, 3], [0.5, 1, 3])).toBeCloseTo(3, 9);
  expect(segmentDistance([0, 0, 0], [0, 0, 0], [3, 4, 0], [3, 4, 0])).toBeCloseTo(5, 9);
  const roles = rolesByName(body());
  const [close, apart] = [put(body(), 'idle', { armSpread: -10 }), put(body(), 'idle', { armSpread: 60 })];
  const contacts = (kit: Kit) => handContacts(kit, kit.clips.made, new MemoryBlobs(), roles).length;
  expect(contacts(apart)).toBe(0);
  expect(contacts(close)).toBeGreaterThan(20);
});

/** A body held by its joints whose mesh has numbers in another unit, under a part that stands elsewhere. */
function heldBody(perMetre: number): { kit: Kit; blobs: MemoryBlobs } {
  const blobs = new MemoryBlobs();
  const kit = structuredClone(put(body(), 'idle', { armSpread: -10 })) as Kit;
  const worlds = restWorlds(kit);
  const joints = Object.values(kit.parts).map(({ id }) => id);
  const corners = [-1, 1].flatMap((x) => [-1, 1].flatMap((y) => [-1, 1].map((z) => [0.04 * x, 0.04 * y, 0.04 * z])));
  const points = joints.flatMap((id) => corners.map((corner) => corner.map((value, k) => (value + worlds.get(id)![12 + k]) * perMetre)));
  const put3 = (values: number[], width: 1 | 3) => putArray(blobs, Float32Array.from(values), width);
  kit.meshes.skin = {
    id: 'skin',
    name: 'skin',
    primitives: [
      {
        material: null,
        indices: putArray(blobs, Uint32Array.of(0, 1, 2), 1),
        attributes: {
          POSITION: put3(points.flat(), 3),
          JOINTS_0: putArray(blobs, Uint16Array.from(points.flatMap((_, v) => [v >> 3, 0, 0, 0])), 4),
          WEIGHTS_0: putArray(blobs, Float32Array.from(points.flatMap(() => [1, 0, 0, 0])), 4),
        },
      },
    ],
  };
  // From the mesh's unit into each joint's axes.
  const s = 1 / perMetre;
  const binds = joints.map((id) =>
    multiplyMatrices(invertMatrix(worlds.get(id)!)!, Float64Array.of(s, 0, 0, 0, 0, s, 0, 0, 0, 0, s, 0, 0, 0, 0, 1)),
  );
  kit.skins.skin = { id: 'skin', name: 'skin', joints, inverseBindMatrices: writeBindMatrices(binds, blobs) };
  kit.parts.skin = newPart({ id: 'skin', name: 'skin', mesh: 'skin', skin: 'skin', translation: [7, 8, 9] });
  return { kit, blobs };
}

test('a hand in a leg is as deep whatever unit a held mesh has, and wherever its own part stands', () => {
  const depths = [1, 100].map((perMetre) => {
    const { kit, blobs } = heldBody(perMetre);
    return handContacts(kit, kit.clips.made, blobs, rolesByName(kit)).map(({ depth }) => depth);
  });
  expect(depths[0].length).toBeGreaterThan(5);
  expect(Math.max(...depths[0])).toBeLessThan(0.3);
  depths[0].forEach((depth, i) => expect(depths[1][i]).toBeCloseTo(depth, 5));
});
