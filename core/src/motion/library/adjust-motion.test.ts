import { MemoryBlobs, callOf, type Id, type Kit, type Quat, type Vec3 } from '../../document';
import { angleBetweenQuats } from '../../geometry';
import { body, placesOf, turnsOf } from '../../tests/body';
import { run } from '../../tests/helpers';
import {
  adjustMotion,
  AS_IT_IS,
  matchedMotion,
  plantedFeet,
  plantedHere,
  putMotion,
  rolesByName,
  rolesOf,
  takenMotion,
  twinsOf,
  type FitChoices,
} from '.';

const put = (kit: Kit, motion: string) => run(kit, new MemoryBlobs(), callOf(putMotion, { motion, clip: 'made', name: motion, rate: 30 }));
const adjust = (kit: Kit, choices: Partial<FitChoices>, pinned = false) =>
  run(kit, new MemoryBlobs(), callOf(adjustMotion, { clip: 'made', choices: { ...AS_IT_IS, ...choices }, pinned, planted: null }));
const TIMES = Array.from({ length: 41 }, (_, i) => (1.1 * i) / 40);
const apart = (a: Vec3, b: Vec3) => Math.hypot(...a.map((value, k) => value - b[k]));
const furthest = (a: Vec3[], b: Vec3[]) => Math.max(...a.map((place, i) => apart(place, b[i])));

test('nothing asked for changes nothing', () => {
  const kit = put(body(), 'walk');
  expect(adjust(kit, {}).clips.made.tracks).toEqual(kit.clips.made.tracks);
});

test.each([[false], [true]])(
  'in the mirror every part does what its twin did, seen in the mirror, and twice is as it was (axes turned: %s)',
  (turned) => {
    const kit = put(body(1, turned), 'wave');
    const once = adjust(kit, { mirrored: true });
    const twice = adjust(once, { mirrored: true });
    const twin = (part: Id) => part.replace(/_([lr])$/, (_, side: string) => (side === 'l' ? '_r' : '_l'));
    for (const part of ['hips', 'head', 'hand_l', 'hand_r', 'foot_l']) {
      const wanted = turnsOf(kit, twin(part), TIMES).map(([x, y, z, w]): Quat => [x, -y, -z, w]);
      turnsOf(once, part, TIMES).forEach((turn, i) => expect(angleBetweenQuats(turn, wanted[i])).toBeLessThan(1));
      if (!turned)
        expect(
          furthest(
            placesOf(once, part, TIMES),
            placesOf(kit, twin(part), TIMES).map(([x, y, z]): Vec3 => [-x, y, z]),
          ),
        ).toBeLessThan(0.008);
      expect(furthest(placesOf(twice, part, TIMES), placesOf(kit, part, TIMES))).toBeLessThan(0.008);
    }
  },
);

test('longer steps go further in the same time, and what stood stays on one place', () => {
  const kit = put(body(), 'walk');
  const long = adjust(kit, { stride: 1.3 });
  const way = (of: Kit) => placesOf(of, 'hips', [1.1])[0][2] - placesOf(of, 'hips', [0])[0][2];
  expect(way(long)).toBeCloseTo(1.3 * way(kit), 2);
  expect(slide(long, kit)).toBeLessThan(0.005);
});

test('lower hips leave the feet where they were; no travel brings the root back to where it began', () => {
  const kit = put(body(), 'walk');
  const low = adjust(kit, { hipHeight: -0.08 });
  const [before, after] = [placesOf(kit, 'hips', TIMES), placesOf(low, 'hips', TIMES)];
  after.forEach((place, i) => expect(before[i][1] - place[1]).toBeGreaterThan(0.06));
  expect(furthest(placesOf(low, 'foot_l', TIMES), placesOf(kit, 'foot_l', TIMES))).toBeLessThan(0.008);
  const inPlace = placesOf(adjust(kit, { inPlace: true }), 'hips', [0, kit.clips.made.lengthSeconds]);
  expect(apart(inPlace[0], inPlace[1])).toBeLessThan(0.004);
});

test('arms go out from the body, each to its side, and nothing else moves', () => {
  const kit = put(body(), 'walk');
  const wide = adjust(kit, { armSpread: 25 });
  for (const [hand, side] of [
    ['hand_l', 1],
    ['hand_r', -1],
  ] as const) {
    const before = placesOf(kit, hand, TIMES);
    placesOf(wide, hand, TIMES).forEach((place, i) => expect(side * (place[0] - before[i][0])).toBeGreaterThan(0.05));
  }
  expect(placesOf(wide, 'foot_r', TIMES)).toEqual(placesOf(kit, 'foot_r', TIMES));
});

/** How far a foot gets from the middle of where it stands, going by when it stands in another kit's clip of the same length. */
function slide(kit: Kit, told: Kit): number {
  let most = 0;
  for (const { foot, from, to } of plantedFeet(told, told.clips.made, new MemoryBlobs())) {
    if (to - from < 0.1) continue;
    const places = placesOf(
      kit,
      foot,
      Array.from({ length: 12 }, (_, i) => from + 0.02 + ((to - from - 0.04) * i) / 11),
    );
    most = Math.max(most, ...places.map((place) => apart(place, places[6])));
  }
  return most;
}

/** The same body with shorter shins and longer thighs, standing on the ground. */
function otherwise(): Kit {
  const kit = body(0.8);
  const other: Kit = structuredClone(kit);
  for (const side of ['l', 'r']) {
    const [shin, foot] = [other.parts[`shin_${side}`], other.parts[`foot_${side}`]];
    shin.translation = [shin.translation[0], shin.translation[1] * 0.82, shin.translation[2] + 0.01];
    foot.translation = [foot.translation[0], foot.translation[1] * 1.1, foot.translation[2]];
  }
  return other;
}

test('a walk taken from another body keeps its planted feet within 5 mm, and on the ground, unless they are let slide', () => {
  const source = put(body(), 'walk');
  const blobs = new MemoryBlobs();
  const target = otherwise();
  const motion = { ...matchedMotion(source, source.clips.made, target, blobs), scale: 0.8 };
  const onto = (kit: Kit, pinned: boolean) =>
    takenMotion(kit, motion, { choices: AS_IT_IS, pinned }, { id: 'made', name: 'walk' }).reduce((on, call) => run(on, blobs, call), kit);
  const [taken, fitted] = [onto(target, false), onto(target, true)];
  expect(slide(taken, source)).toBeGreaterThan(0.0125);
  expect(slide(fitted, source)).toBeLessThan(0.005);
  const ground = placesOf({ ...target, clips: { made: { ...fitted.clips.made, tracks: [] } } }, 'foot_l', [0])[0][1];
  const planted = plantedHere(target, motion);
  expect(planted.length).toBeGreaterThan(2);
  for (const { foot, from, to, lift } of planted)
    if (to - from > 0.1) expect(Math.abs(placesOf(fitted, foot, [(from + to) / 2])[0][1] - ground - lift)).toBeLessThan(0.006);
  // On a body whose legs nobody knows the motion is taken as it is.
  const legless = {
    ...target,
    parts: Object.fromEntries(Object.entries(target.parts).map(([id, part]) => [id, { ...part, name: `x_${id}` }])),
  };
  expect(takenMotion(legless, motion, { choices: AS_IT_IS, pinned: true }, { id: 'made', name: 'walk' })).toHaveLength(1);
});

test('what cannot be fitted says what is missing, and can be told which joint is for what', () => {
  const kit = put(body(), 'walk');
  const nameless: Kit = structuredClone(kit);
  for (const part of Object.values(nameless.parts)) part.name = `x${part.order}`;
  expect(() => adjust(nameless, { stride: 2 })).toThrow(/Hips and legs/);
  expect(() => adjust(nameless, { armSpread: 10 })).toThrow(/upper arm/);
  expect(() => adjust(nameless, { inPlace: true })).toThrow(/hips or the trunk/);
  const told = adjust(
    { ...nameless, motionRoles: rolesByName(kit) as Record<string, Id> },
    { stride: 1.2, armSpread: 10, mirrored: true, inPlace: true },
    true,
  );
  const known = adjust(kit, { stride: 1.2, armSpread: 10, mirrored: true, inPlace: true }, true);
  for (const part of ['hand_l', 'foot_r']) expect(furthest(placesOf(told, part, TIMES), placesOf(known, part, TIMES))).toBeLessThan(1e-6);
  // What was said of a joint that is gone counts for nothing, and what is said goes before what a name says.
  expect(rolesOf({ ...kit, motionRoles: { upper_arm_l: 'gone' } })).toEqual(rolesByName(kit));
  expect(rolesOf({ ...kit, motionRoles: { thigh_l: 'shin_l', hips: null } })).toEqual({
    ...rolesByName(kit),
    thigh_l: 'shin_l',
    shin_l: undefined,
    hips: undefined,
  });
  expect(twinsOf({ ...nameless, motionRoles: { fan_l: 'head', fan_r: 'hips' } })).toEqual(
    new Map([
      ['head', 'hips'],
      ['hips', 'head'],
    ]),
  );
});

test('a motion that is pinned where nothing slides is left as it is', () => {
  const kit = put(body(), 'idle');
  const pinned = adjust(kit, {}, true);
  for (const foot of ['foot_l', 'foot_r']) expect(furthest(placesOf(pinned, foot, TIMES), placesOf(kit, foot, TIMES))).toBeLessThan(0.002);
  expect(placesOf(pinned, 'hips', TIMES)).toEqual(placesOf(kit, 'hips', TIMES));
});
