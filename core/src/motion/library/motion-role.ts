import type { Id, Kit } from '../../document';
import { plainName } from '../plain-name';

/** What joints are for, without their side. */
export const MOTION_ROLES = [
  'hips',
  'spine',
  'chest',
  'neck',
  'head',
  'shoulder',
  'upper_arm',
  'forearm',
  'hand',
  'thigh',
  'shin',
  'foot',
  'fore_upper',
  'fore_lower',
  'fore_foot',
  'hind_upper',
  'hind_lower',
  'hind_foot',
  'tail',
  'tail_mid',
  'tail_end',
  'trunk',
  'fin_root',
  'fin_mid',
  'fin_tip',
  'fan',
] as const;
export type MotionRole = (typeof MOTION_ROLES)[number];

/** Roles that there are one of on the left and one on the right. */
export const PAIRED: ReadonlySet<MotionRole> = new Set<MotionRole>([
  'shoulder',
  'upper_arm',
  'forearm',
  'hand',
  'thigh',
  'shin',
  'foot',
  'fore_upper',
  'fore_lower',
  'fore_foot',
  'hind_upper',
  'hind_lower',
  'hind_foot',
  'fin_root',
  'fin_mid',
  'fin_tip',
  'fan',
]);

/** A role with its side: `thigh_l`, `hips`. */
export type SidedRole = MotionRole | `${MotionRole}_${'l' | 'r'}`;

/** Which part is for what. */
export type JointRoles = Partial<Record<SidedRole, Id>>;

/** Every role with its sides. */
export const SIDED_ROLES: readonly SidedRole[] = MOTION_ROLES.flatMap((role): SidedRole[] =>
  PAIRED.has(role) ? [`${role}_l`, `${role}_r`] : [role],
);

/** Other words by which skeletons of the trade call the same joint, as `plainName` gives them. */
const WORDS: Record<MotionRole, string[]> = {
  hips: ['hips', 'hip', 'pelvis'],
  spine: ['spine', 'spine1', 'waist', 'abdomen', 'torso'],
  chest: ['chest', 'spine2', 'upperchest', 'ribs'],
  neck: ['neck', 'neck1'],
  head: ['head'],
  shoulder: ['shoulder', 'clavicle', 'collar'],
  upper_arm: ['upperarm', 'arm', 'uparm'],
  forearm: ['forearm', 'lowerarm', 'lowarm', 'elbow'],
  hand: ['hand', 'wrist'],
  thigh: ['thigh', 'upperleg', 'upleg'],
  shin: ['shin', 'calf', 'lowerleg', 'leg', 'knee'],
  foot: ['foot', 'ankle'],
  fore_upper: ['foreupper', 'forethigh', 'frontupper', 'frontupperleg'],
  fore_lower: ['forelower', 'foreshin', 'frontlower', 'frontlowerleg'],
  fore_foot: ['forefoot', 'frontfoot', 'frontpaw'],
  hind_upper: ['hindupper', 'hindthigh', 'backupper', 'rearupper'],
  hind_lower: ['hindlower', 'hindshin', 'backlower', 'rearlower'],
  hind_foot: ['hindfoot', 'backfoot', 'rearfoot', 'hindpaw'],
  tail: ['tail', 'tail1', 'tailroot', 'tailbase'],
  tail_mid: ['tailmid', 'tail2'],
  tail_end: ['tailend', 'tailtip', 'tail3'],
  trunk: ['trunk', 'body'],
  fin_root: ['finroot', 'fin1', 'wingroot', 'wing1', 'fin', 'wing'],
  fin_mid: ['finmid', 'fin2', 'wingmid', 'wing2'],
  fin_tip: ['fintip', 'fin3', 'wingtip', 'wing3'],
  fan: ['fan', 'tailfan'],
};

/** What a motion's root is on a skeleton: its hips, or the trunk of what has none. */
export const rootOf = (roles: JointRoles) => roles.hips ?? roles.trunk;

/** Which part of a kit is for what, by its name; the first of each. */
export function rolesByName(kit: Kit, parts: readonly Id[] = Object.keys(kit.parts)): JointRoles {
  const byPlain = new Map<string, Id>();
  for (const id of parts) {
    const plain = plainName(kit.parts[id].name);
    if (!byPlain.has(plain)) byPlain.set(plain, id);
  }
  const out: JointRoles = {};
  for (const role of MOTION_ROLES) {
    for (const [side, sign] of PAIRED.has(role)
      ? ([
          ['_l', '<'],
          ['_r', '>'],
        ] as const)
      : ([['', '']] as const)) {
      const found = WORDS[role].map((word) => byPlain.get(sign + word)).find((id) => id !== undefined);
      if (found !== undefined) out[`${role}${side}` as SidedRole] = found;
    }
  }
  const plainOf = new Map([...byPlain].map(([plain, id]) => [id, plain]));
  for (const [side, sign] of [
    ['l', '<'],
    ['r', '>'],
  ] as const) {
    // Where nothing else is a thigh, a “leg” is one, and not what hangs below it.
    const leg = byPlain.get(`${sign}leg`);
    if (leg !== undefined && out[`thigh_${side}`] === undefined && out[`shin_${side}`] === leg) {
      out[`thigh_${side}`] = leg;
      delete out[`shin_${side}`];
    }
    // A hip of a side right above a knee is a thigh, a shoulder right above an elbow an upper arm: the word alone does not say.
    const [shin, forearm] = [out[`shin_${side}`], out[`forearm_${side}`]];
    const [overKnee, overElbow] = [shin, forearm].map((id) => (id === undefined ? null : kit.parts[id].parent));
    if (out[`thigh_${side}`] === undefined && overKnee !== null && HIP.test(plainOf.get(overKnee) ?? '')) out[`thigh_${side}`] = overKnee;
    if (out[`upper_arm_${side}`] !== undefined || overElbow === null || !SHOULDER.test(plainOf.get(overElbow) ?? '')) continue;
    out[`upper_arm_${side}`] = overElbow;
    const above = kit.parts[overElbow].parent;
    if (above !== null && SHOULDER.test(plainOf.get(above) ?? '')) out[`shoulder_${side}`] = above;
    else delete out[`shoulder_${side}`];
  }
  return out;
}

/** Plain names of a side’s hip, and of what may be a clavicle or an upper arm. */
const HIP = /^[<>]hips?$/;
const SHOULDER = /^[<>](shoulder|clavicle|collar)$/;

/** Which part of a kit is for what in motions: as was said of it, and elsewhere by its name. */
export function rolesOf(kit: Kit): JointRoles {
  const said = new Map(Object.entries(kit.motionRoles ?? {}).filter(([, id]) => id === null || kit.parts[id])) as Map<SidedRole, Id | null>;
  const elsewhere = new Set(said.values());
  const named = (Object.entries(rolesByName(kit)) as [SidedRole, Id][]).filter(([role, id]) => !said.has(role) && !elsewhere.has(id));
  return Object.fromEntries([...named, ...said].filter(([, id]) => id !== null)) as JointRoles;
}

/** The part on the other side of each, by what they are for or else by their names; of parts without a side nothing. */
export function twinsOf(kit: Kit): Map<Id, Id> {
  const out = new Map<Id, Id>();
  const plain = new Map(Object.values(kit.parts).map(({ id, name }) => [id, plainName(name)]));
  const byPlain = new Map([...plain].reverse().map(([id, name]) => [name, id]));
  for (const [id, name] of plain) {
    const other = byPlain.get(name.replace(/^[<>]/, (side) => (side === '<' ? '>' : '<')));
    if (/^[<>]/.test(name) && other !== undefined && byPlain.get(name) === id) out.set(id, other);
  }
  const roles = rolesOf(kit);
  for (const [role, id] of Object.entries(roles) as [SidedRole, Id][]) {
    const other = roles[otherSide(role)];
    if (other !== undefined && otherSide(role) !== role) out.set(id, other);
  }
  return out;
}

/** `thigh_r` for `thigh_l`; itself where there are no sides. */
export const otherSide = (role: SidedRole) => role.replace(/_([lr])$/, (_, side: string) => `_${side === 'l' ? 'r' : 'l'}`) as SidedRole;
