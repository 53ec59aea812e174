import { newPart, callOf, type Id, type Kit, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';
import { bodyKit, tube } from '../tests/bodies';
import { run } from '../tests/helpers';
import { compareSkeletons, jointsLike, meaningOf, referenceOf, type ReferenceJoint } from './compare-skeletons';
import { addJoints } from './joint-operations';
import { jointsInOrder } from './rig-tree';

const skeleton = (joints: [Id, Id | null, Vec3][]) =>
  bodyKit(
    tube(0.1, 0, 1.6, 4, 6),
    joints.map(([id, parent, at]) => ({ id, parent, at })),
  );
const sound: [Id, Id | null, Vec3][] = [
  ['hips', null, [0, 0.9, 0]],
  ['spine', 'hips', [0, 0.3, 0]],
  ['upper_arm_l', 'spine', [0.2, 0.3, 0]],
  ['forearm_l', 'upper_arm_l', [0.3, 0, 0]],
  ['thigh_l', 'hips', [0.1, -0.05, 0]],
];
const named = (names: [string, string | null][]): ReferenceJoint[] =>
  names.map(([name, parent]) => ({ name, parent, needed: true, at: null, rotation: null }));
const statesOf = (kit: Kit, reference: readonly ReferenceJoint[]) =>
  Object.fromEntries(
    compareSkeletons(kit, reference).map(({ wanted, joint, states }) => [wanted ?? kit.parts[joint!].name, states.join()]),
  );

test('names of one joint in the tongues of the trade mean the same, sides apart', () => {
  for (const name of ['UpperArm.L', 'left_upper_arm', 'upper_arm_l', 'Arm_Left', 'L_UpperArm']) expect(meaningOf(name)).toBe('upperarm/l');
  expect(meaningOf('upper_arm_r')).toBe('upperarm/r');
  expect(meaningOf('pelvis')).toBe(meaningOf('Hips'));
  expect(meaningOf('calf_r')).not.toBe(meaningOf('calf_l'));
});

test('a skeleton held against itself matches, joint by joint', () => {
  const { kit } = skeleton(sound);
  expect(new Set(Object.values(statesOf(kit, referenceOf(kit))))).toEqual(new Set(['matched']));
});

test('another name, another parent, a joint too few and one too many are told apart', () => {
  const { kit } = skeleton([
    ['Pelvis', null, [0, 0.9, 0]],
    ['spine', 'Pelvis', [0, 0.3, 0]],
    ['UpperArm.L', 'Pelvis', [0.2, 0.6, 0]],
    ['tail', 'Pelvis', [0, 0, -0.3]],
  ]);
  const reference = named([
    ['hips', null],
    ['spine', 'hips'],
    ['upper_arm_l', 'spine'],
    ['forearm_l', 'upper_arm_l'],
  ]);
  expect(statesOf(kit, reference)).toEqual({
    hips: 'misnamed',
    spine: 'matched',
    upper_arm_l: 'misnamed,wrong-parent',
    forearm_l: 'missing',
    tail: 'extra',
  });
});

test('what stands or lies elsewhere is measured at the other skeleton’s size, and what is missing has a place', () => {
  const { kit: other } = skeleton(sound);
  // Half as large, the arm higher up, the thigh turned, without a forearm.
  const { kit } = skeleton(
    sound.filter(([id]) => id !== 'forearm_l').map(([id, parent, at]) => [id, parent, at.map((value) => value / 2) as Vec3]),
  );
  kit.parts.thigh_l.rotation = quatFromTurn([0, 0, 20], 'xyz');
  const rows = Object.fromEntries(compareSkeletons(kit, referenceOf(other)).map((row) => [row.wanted, row]));
  expect(rows.thigh_l.states).toEqual(['other-rest']);
  expect(rows.thigh_l.offDegrees).toBeCloseTo(20, 4);
  expect(rows.spine.offMetres).toBeCloseTo(0, 6);
  (rows.forearm_l.place as Vec3).forEach((value, axis) => expect(value).toBeCloseTo([0.25, 0.75, 0][axis], 6));
  kit.parts.upper_arm_l.translation = [0.1, 0.35, 0];
  expect(compareSkeletons(kit, referenceOf(other)).find(({ wanted }) => wanted === 'upper_arm_l')!.states).toContain('misplaced');
});

test('the joints of another kit are made at this one’s size, and match it then', () => {
  const { kit: other } = skeleton(sound);
  const { kit, blobs } = bodyKit(tube(0.05, 0, 0.8, 4, 6), []);
  kit.parts.root = newPart({ id: 'root', name: 'root', translation: [0, 0, 1] });
  const made = run(kit, blobs, callOf(addJoints, { joints: jointsLike(other, 0.5, (id) => `new_${id}`, 'root') }));
  expect(jointsInOrder(made)).toHaveLength(sound.length);
  const rows = compareSkeletons(made, referenceOf(other));
  expect(new Set(rows.map(({ states }) => states.join()))).toEqual(new Set(['matched']));
});

test('what no name tells is known by where it hangs among what is known, and sides never cross', () => {
  const { kit } = skeleton([
    ['whole', null, [0, 0, 0]],
    ['Pelvis', 'whole', [0, 0.9, 0]],
    ['lower', 'Pelvis', [0, 0.2, 0]],
    ['upper', 'lower', [0, 0.2, 0]],
    ['Neck', 'upper', [0, 0.2, 0]],
    ['skull', 'Neck', [0, 0.1, 0]],
    ['stump_l', 'Pelvis', [0.1, 0, 0]],
    ['Knee_L', 'stump_l', [0, -0.4, 0]],
    ['stump_r', 'Pelvis', [-0.1, 0, 0]],
    ['Knee_R', 'stump_r', [0, -0.4, 0]],
    ['toe_r', 'Knee_R', [0, -0.4, 0]],
  ]);
  const rows = compareSkeletons(
    kit,
    named([
      ['ground', null],
      ['hips', 'ground'],
      ['spine', 'hips'],
      ['chest', 'spine'],
      ['neck', 'chest'],
      ['head', 'neck'],
      ['thigh_l', 'hips'],
      ['shin_l', 'thigh_l'],
      ['foot_l', 'shin_l'],
      ['thigh_r', 'hips'],
      ['shin_r', 'thigh_r'],
      ['foot_r', 'shin_r'],
    ]),
  );
  expect(Object.fromEntries(rows.map(({ wanted, joint }) => [wanted ?? 'extra', joint]))).toEqual({
    ground: 'whole',
    hips: 'Pelvis',
    spine: 'lower',
    chest: 'upper',
    neck: 'Neck',
    head: 'skull',
    thigh_l: 'stump_l',
    shin_l: 'Knee_L',
    foot_l: null,
    thigh_r: 'stump_r',
    shin_r: 'Knee_R',
    foot_r: 'toe_r',
  });
});

test('where more hangs than was asked for, or less, nothing is guessed', () => {
  const { kit } = skeleton([
    ['hips', null, [0, 0.9, 0]],
    ['a', 'hips', [0, 0.2, 0]],
    ['b', 'a', [0, 0.2, 0]],
    ['neck', 'b', [0, 0.2, 0]],
    ['horn', 'neck', [0, 0.2, 0]],
    ['jaw', 'neck', [0, 0.1, 0]],
  ]);
  const rows = compareSkeletons(
    kit,
    named([
      ['hips', null],
      ['spine', 'hips'],
      ['neck', 'spine'],
      ['head', 'neck'],
    ]),
  );
  expect(rows.filter(({ states }) => states[0] === 'missing').map(({ wanted }) => wanted)).toEqual(['spine', 'head']);
});
