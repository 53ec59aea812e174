import { sidedName } from './sides';

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
