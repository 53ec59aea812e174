import { newPart, type Kit, type Part } from '../document';
import { chainKit, withMotion } from '../tests/helpers';
import { guessClipScale, matchByNames } from './match-names';
import { rolesByName } from './library';
import { plainName } from './plain-name';

/** A chain of parts of these names that all move; their ids are a prefix and their place. */
function movingChain(prefix: string, names: string[], fields: Partial<Part> = {}): Kit {
  const made = chainKit(names.map((name, i) => ({ ...fields, id: `${prefix}${i}`, name })));
  return names.reduce((kit, _, i) => withMotion(kit, made.blobs, `${prefix}${i}`, 'turn', 0, [0, 10]), made.kit);
}

test.each([
  ['walker:Hips', 'hips'],
  ['Left Upper Arm', 'upper_arm_l'],
  ['jnt_Wing.R', 'wing right'],
  ['LeftFoot', 'foot.left'],
  ['def|spine_02', 'spine02'],
])('“%s” is “%s” by another program', (one, other) => {
  expect(plainName(one)).toBe(plainName(other));
});

test.each([
  ['arm_l', 'arm_r'],
  ['spine_01', 'spine_02'],
  ['leg', 'leg_l'],
  ['ball', 'bal'],
])('“%s” and “%s” are not one', (one, other) => {
  expect(plainName(one)).not.toBe(plainName(other));
});

test('an exact name goes before a plain one, and a part is taken once', () => {
  const source = movingChain('s', ['Lid', 'lid']);
  const target = movingChain('t', ['jnt_lid', 'lid']);
  expect(matchByNames(source, target)).toEqual({ s0: 't0', s1: 't1' });
});

test('where two are left for one name, the second stays without', () => {
  expect(matchByNames(movingChain('s', ['a:Lid', 'b:Lid']), movingChain('t', ['lid', 'box']))).toEqual({ s0: 't0', s1: null });
});

test('what does not move is not matched, and a name of signs alone meets nothing', () => {
  const source = movingChain('s', ['--', 'arm']);
  const target = movingChain('t', ['__', 'arm']);
  expect(matchByNames(source, target)).toEqual({ s0: null, s1: 't1' });
  expect(matchByNames({ ...source, clips: {} }, target)).toEqual({});
});

test('no part is given twice, whatever the names are', () => {
  const names = ['hips', 'Hips', 'jnt_hips', 'hips_l', 'left hips', 'a:hips', '', '.'];
  const pairs = Object.values(matchByNames(movingChain('s', names), movingChain('t', [...names].reverse())));
  const found = pairs.filter((one) => one !== null);
  expect(new Set(found).size).toBe(found.length);
});

test('a kit twice as large asks for moves twice as long; the same size, and one place, for those that there are', () => {
  const names = ['root', 'tip'];
  const source = movingChain('s', names, { translation: [0, 1, 0] });
  const pairs = { s0: 't0', s1: 't1' };
  expect(guessClipScale(source, movingChain('t', names, { translation: [0, 2, 0] }), pairs)).toBe(2);
  expect(guessClipScale(source, movingChain('t', names, { translation: [0, 1.01, 0] }), pairs)).toBe(1);
  expect(guessClipScale(source, movingChain('t', names), pairs)).toBe(1);
  expect(guessClipScale(movingChain('s', names), source, { s0: 's0', s1: 's1' })).toBe(1);
  expect(guessClipScale(source, source, {})).toBe(1);
});

/** A body whose joints have these names, each below the one that is named. */
function bodyNamed(parents: Record<string, string | null>): Kit {
  const { kit } = chainKit([]);
  for (const [name, parent] of Object.entries(parents)) kit.parts[name] = newPart({ id: name, name, parent, role: 'joint' });
  return kit;
}

test.each([
  [
    'a hip above a knee is a thigh, a shoulder above an elbow an upper arm',
    {
      Hips: null,
      Chest: 'Hips',
      LeftShoulder: 'Chest',
      LeftElbow: 'LeftShoulder',
      LeftWrist: 'LeftElbow',
      LeftHip: 'Hips',
      LeftKnee: 'LeftHip',
    },
    { hips: 'Hips', upper_arm_l: 'LeftShoulder', forearm_l: 'LeftElbow', hand_l: 'LeftWrist', thigh_l: 'LeftHip', shin_l: 'LeftKnee' },
    ['shoulder_l'],
  ],
  [
    'with a collar above it the shoulder is an upper arm all the same, and the collar the shoulder',
    { Chest: null, LeftCollar: 'Chest', LeftShoulder: 'LeftCollar', LeftElbow: 'LeftShoulder' },
    { shoulder_l: 'LeftCollar', upper_arm_l: 'LeftShoulder', forearm_l: 'LeftElbow' },
    [],
  ],
  [
    'with an arm between it and the elbow it is a shoulder',
    { Chest: null, LeftShoulder: 'Chest', LeftArm: 'LeftShoulder', LeftForeArm: 'LeftArm' },
    { shoulder_l: 'LeftShoulder', upper_arm_l: 'LeftArm', forearm_l: 'LeftForeArm' },
    [],
  ],
  [
    'a hip of a side above a thigh is none',
    { Hips: null, LeftHip: 'Hips', LeftThigh: 'LeftHip', LeftShin: 'LeftThigh' },
    { thigh_l: 'LeftThigh', shin_l: 'LeftShin' },
    [],
  ],
])('%s', (_, parents, roles, without) => {
  const found = rolesByName(bodyNamed(parents));
  expect(found).toMatchObject(roles);
  for (const role of without) expect(found).not.toHaveProperty(role);
});

test('a part that stands still below a moving one without a partner is matched too: it carries that motion', () => {
  const source = structuredClone(movingChain('s', ['Carriage', 'Lid']));
  source.clips.clip.tracks = source.clips.clip.tracks.filter(({ part }) => part === 's0');
  expect(matchByNames(source, movingChain('t', ['base', 'lid']))).toEqual({ s0: null, s1: 't1' });
});
