import { PlainGlb, plainTurn, type PlainBox, type PlainChannel } from './plain-glb';
import type { Random } from './random';

/** A body that somebody else made, with a walk of which is known how fast its feet go. */
export interface StrangerBody {
  bytes: Uint8Array;
  walk: string;
  idle: string;
  /** How fast the feet on the ground go, metres a second. */
  speed: number;
  /** Whether it walks away in the file. */
  travels: boolean;
  seconds: number;
}

interface Joint {
  /** As Emberfold calls it. */
  role: string;
  parent: string | null;
  /** At rest, for a body of a metre and three quarters. */
  at: readonly [number, number, number];
  box: PlainBox;
}

const THIGH = 0.42;
const SHIN = 0.41;
const ANKLE = 0.08;
const HIP = THIGH + SHIN + ANKLE;

const joint = (role: string, parent: string | null, at: Joint['at'], size: readonly number[], middle: readonly number[]): Joint => ({
  role,
  parent,
  at,
  box: { size, middle },
});

const SIDES = [
  ['l', 1],
  ['r', -1],
] as const;

const JOINTS: Joint[] = [
  joint('hips', null, [0, HIP + 0.05, 0], [0.32, 0.2, 0.22], [0, 0, 0]),
  joint('spine', 'hips', [0, HIP + 0.18, 0], [0.3, 0.2, 0.2], [0, 0.08, 0]),
  joint('chest', 'spine', [0, HIP + 0.38, 0], [0.38, 0.26, 0.24], [0, 0.1, 0]),
  joint('neck', 'chest', [0, HIP + 0.62, 0], [0.1, 0.1, 0.1], [0, 0.03, 0]),
  joint('head', 'neck', [0, HIP + 0.7, 0.01], [0.2, 0.26, 0.24], [0, 0.12, 0.02]),
  ...SIDES.flatMap(([side, s]): Joint[] => [
    joint(`shoulder_${side}`, 'chest', [0.06 * s, HIP + 0.57, 0], [0.12, 0.08, 0.1], [0.06 * s, 0, 0]),
    joint(`upper_arm_${side}`, `shoulder_${side}`, [0.2 * s, HIP + 0.56, 0], [0.28, 0.1, 0.1], [0.13 * s, 0, 0]),
    joint(`forearm_${side}`, `upper_arm_${side}`, [0.47 * s, HIP + 0.56, 0], [0.24, 0.08, 0.08], [0.12 * s, 0, 0]),
    joint(`hand_${side}`, `forearm_${side}`, [0.72 * s, HIP + 0.56, 0], [0.16, 0.06, 0.1], [0.08 * s, 0, 0]),
    joint(`thigh_${side}`, 'hips', [0.1 * s, HIP, 0], [0.15, 0.4, 0.16], [0, -0.2, 0]),
    joint(`shin_${side}`, `thigh_${side}`, [0.1 * s, HIP - THIGH, 0], [0.12, 0.4, 0.12], [0, -0.2, 0]),
    joint(`foot_${side}`, `shin_${side}`, [0.1 * s, ANKLE, 0], [0.1, 0.08, 0.24], [0, -0.04, 0.06]),
  ]),
];

/** What joints are called; those that are left out keep the platform's word, sides are written in some way of their own. */
const TONGUES: { words: Record<string, string>; sided: (word: string, side: string) => string }[] = [
  {
    words: {
      ...{ hips: 'Pelvis', spine: 'Lower Back', chest: 'Upper Back', neck: 'Neck', head: 'Skull', shoulder: 'Clavicle', upper_arm: 'Arm' },
      ...{ forearm: 'Elbow', hand: 'Palm', thigh: 'Hip', shin: 'Knee', foot: 'Ankle' },
    },
    sided: (word, side) => `${word} ${side.toUpperCase()}`,
  },
  {
    words: { spine: 'waist', chest: 'ribcage', head: 'top', shoulder: 'collar', upper_arm: 'upperarm', hand: 'wrist', shin: 'calf' },
    sided: (word, side) => `${side === 'l' ? 'Left' : 'Right'}_${word}`,
  },
  { words: {}, sided: (word, side) => `${word}.${side.toUpperCase()}` },
];

/** A leg as two bones (law of cosines) whose foot is somewhere ahead of and below its hip: turns of thigh, shin and foot about x. */
function legTurns(ahead: number, below: number): [number, number, number] {
  const reach = Math.min(Math.hypot(ahead, below), THIGH + SHIN - 1e-6);
  const knee = Math.PI - Math.acos((THIGH ** 2 + SHIN ** 2 - reach ** 2) / (2 * THIGH * SHIN));
  const thigh = -(Math.atan2(ahead, below) + Math.acos((THIGH ** 2 + reach ** 2 - SHIN ** 2) / (2 * THIGH * reach)));
  return [thigh, knee, -(thigh + knee)];
}

/**
 * A body of boxes on a skeleton in another tongue, in any unit and size, carried by a part that is sized and may be turned, with a walk in
 * place or through the world and one clip of standing.
 */
export function strangerBody(random: Random): StrangerBody {
  const glb = new PlainGlb();
  const perMetre = random.oneOf([1, 100, 1 / 0.0254]);
  const size = random.between(0.6, 1.3);
  const { words, sided } = random.oneOf(TONGUES);
  const called = (role: string) => {
    const [, word, side] = /^(.*?)(?:_([lr]))?$/.exec(role)!;
    return side ? sided(words[word] ?? word, side) : (words[word] ?? word);
  };
  const scaled = (values: readonly number[]) => values.map((value) => value * size * perMetre);
  const atOf = new Map(JOINTS.map(({ role, at }) => [role, at]));
  const nodeOf = new Map<string, number>();
  // Children first: a node names those below it.
  for (const { role, parent, at } of [...JOINTS].reverse()) {
    const above = parent === null ? [0, 0, 0] : atOf.get(parent)!;
    const children = JOINTS.filter((one) => one.parent === role).map((one) => nodeOf.get(one.role)!);
    const translation = scaled(at.map((value, c) => value - above[c]));
    nodeOf.set(role, glb.node({ name: called(role), translation, ...(children.length > 0 && { children }) }));
  }
  const boxes = JOINTS.map(({ at, box }, i): PlainBox => ({
    size: scaled(box.size),
    middle: scaled(box.middle.map((value, c) => value + at[c])),
    joint: i,
  }));
  const binds = JOINTS.map(({ at }) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...scaled(at).map((value) => -value), 1]);
  const skin = glb.skin(
    'Skin',
    JOINTS.map(({ role }) => nodeOf.get(role)!),
    binds,
  );
  const mesh = glb.node({ name: 'Figure mesh', mesh: glb.boxes('body', boxes), skin });
  const root = glb.node({ name: 'Figure.001', scale: [1, 1, 1].map((value) => value / perMetre), children: [nodeOf.get('hips')!, mesh] });

  const down = random.between(0.5, 0.62);
  const stride = random.between(0.45, 0.7);
  const seconds = random.oneOf([0.8, 1, 1.2]);
  const [lift, bent] = [random.between(0.05, 0.14), random.between(0.06, 0.1)];
  const speed = (stride * size) / (down * seconds);
  const travels = random.chance(0.5);
  const times = Array.from({ length: Math.round(seconds * 30) + 1 }, (_, i) => i / 30);
  const foot = (time: number, off: number): [number, number] => {
    const phase = (time / seconds + off) % 1;
    if (phase < down) return [stride * (0.5 - phase / down), 0];
    const u = (phase - down) / (1 - down);
    return [stride * (u - 0.5), lift * Math.sin(Math.PI * u) ** 2];
  };
  const turns = (role: string, of: (time: number) => number[]): PlainChannel => ({
    node: nodeOf.get(role)!,
    path: 'rotation',
    interpolation: 'LINEAR',
    times,
    rows: times.map(of),
  });
  const legs = SIDES.flatMap(([side], s) =>
    (['thigh', 'shin', 'foot'] as const).map((part, k) =>
      turns(`${part}_${side}`, (time) => {
        const [ahead, up] = foot(time, s / 2);
        return plainTurn(0, legTurns(ahead, HIP - bent - ANKLE - up)[k]);
      }),
    ),
  );
  const arms = SIDES.map(([side, s]) => turns(`upper_arm_${side}`, () => plainTurn(2, -1.25 * s)));
  const [hipsAt] = [atOf.get('hips')!];
  const hips: PlainChannel = {
    node: nodeOf.get('hips')!,
    path: 'translation',
    interpolation: 'LINEAR',
    times,
    rows: times.map((time) => scaled([0, hipsAt[1] - bent, travels ? (stride / (down * seconds)) * time : 0])),
  };
  const walk = random.oneOf(['Stroll_01', 'WALKING', 'gait a']);
  glb.animation(walk, [hips, ...legs, ...arms]);
  const idle = random.oneOf(['STAND', 'Breathing', 'pose']);
  glb.animation(idle, arms);
  return { bytes: glb.write([root]), walk, idle, speed, travels, seconds };
}
