import { sidedName } from './sides';
import { twinName } from './twin-name';

const SUFFIX = { place: 'suffix', left: '_l', right: '_r' } as const;
const PREFIX = { place: 'prefix', left: 'l_', right: 'r_' } as const;
const WORD = { place: 'suffix', left: 'Left', right: 'Right' } as const;

test.each([
  ['upper_arm_l', SUFFIX, 'upper_arm_l'],
  ['UpperArm_L', SUFFIX, 'UpperArm_l'],
  ['left-arm', SUFFIX, 'arm_l'],
  ['arm.R', SUFFIX, 'arm_r'],
  ['armLeft', SUFFIX, 'arm_l'],
  ['leftArm', SUFFIX, 'Arm_l'],
  ['arm_left', PREFIX, 'l_arm'],
  ['l_arm', PREFIX, 'l_arm'],
  ['GripLeft', WORD, 'GripLeft'],
  ['ball', SUFFIX, 'ball'],
  ['leftover', SUFFIX, 'leftover'],
  ['right', SUFFIX, 'right'],
  ['barrel', WORD, 'barrel'],
] as const)('%s', (name, sides, expected) => {
  expect(sidedName(name, sides)).toBe(expected);
  expect(sidedName(expected, sides)).toBe(expected);
});

test('the twin of a name is on the other side, and the twin of the twin is the name', () => {
  const sides = { place: 'prefix' as const, left: 'l_', right: 'r_' };
  expect(['arm_L', 'l_fin', 'FootLeft', 'mast', 'left_door'].map((name) => twinName(name))).toEqual([
    'arm_R',
    'r_fin',
    'FootRight',
    'mast',
    'right_door',
  ]);
  expect(['arm_L', 'r_fin', 'ball'].map((name) => twinName(name, sides))).toEqual(['r_arm', 'l_fin', 'ball']);
  for (const name of ['l_arm', 'fin_r', 'HandRight']) expect(twinName(twinName(name))).toBe(name);
});
