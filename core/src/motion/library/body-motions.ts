import type { Vec3 } from '../../document';
import type { FootPose, LibraryMotion, MotionPose } from './library-motion';

const TAU = 2 * Math.PI;
const wave = (u: number, phase = 0) => Math.sin(TAU * (u + phase));
const wrap = (u: number) => u - Math.floor(u);
const smooth = (u: number) => u * u * (3 - 2 * u);
const none: MotionPose = { turns: {}, root: [0, 0, 0], feet: {} };

/** Arms that hang so far out from straight down, swinging, with the elbows a little bent: of the left one forward is a negative turn. */
const hanging = (out: number, swing: number, bend: number): MotionPose['turns'] => ({
  upper_arm_l: [-swing, 0, out],
  upper_arm_r: [swing, 0, -out],
  forearm_l: [-bend - Math.max(0, swing) * 0.6, 0, 0],
  forearm_r: [-bend - Math.max(0, -swing) * 0.6, 0, 0],
});

const still = (): FootPose => ({ at: [0, 0, 0], planted: true, pitch: 0 });

/**
 * A foot over a step: on the ground for a share of the cycle, going back under the body, then forward in an arc.
 *
 * @param stride Length of a step of this foot, and @param lift height of the arc, in heights of the hips. @param stance Share of the cycle
 * on the ground.
 */
function stepping(u: number, stride: number, lift: number, stance: number): FootPose {
  const phase = wrap(u);
  if (phase < stance) {
    const along = phase / stance;
    // The heel comes down first, and leaves first.
    return { at: [0, 0, stride * stance * (0.5 - along)], planted: true, pitch: 0 };
  }
  const swing = (phase - stance) / (1 - stance);
  return {
    at: [0, lift * Math.sin(Math.PI * swing), stride * stance * (smooth(swing) - 0.5)],
    planted: false,
    pitch: -28 * Math.sin(Math.PI * Math.min(1, swing * 1.6)) * (1 - swing) + 16 * smooth(swing) * (1 - swing),
  };
}

function gait({
  stride,
  lift,
  stance,
  lean,
  bob,
  arms,
  elbows,
  twist,
  low = 0,
  right = { stance, lift, later: 0.5 },
}: {
  stride: number;
  lift: number;
  stance: number;
  lean: number;
  bob: number;
  arms: number;
  elbows: number;
  twist: number;
  /** How much lower the hips are, in heights of theirs. */
  low?: number;
  /** Where the right foot steps otherwise than the left: as far, since both go over the same ground. */
  right?: { stance: number; lift: number; later: number };
}) {
  return (u: number): MotionPose => {
    const swing = arms * Math.cos(TAU * u);
    return {
      root: [0.018 * wave(u, 0.05), -0.035 - low - bob * Math.cos(2 * TAU * u), 0],
      turns: {
        hips: [lean * 0.4, -twist * Math.cos(TAU * u), 2 * wave(u)],
        spine: [lean * 0.4, twist * 0.6 * Math.cos(TAU * u), -2 * wave(u)],
        chest: [lean * 0.2, twist * 0.9 * Math.cos(TAU * u), 0],
        head: [-lean * 0.7, -twist * 0.5 * Math.cos(TAU * u), 0],
        ...hanging(8, -swing, elbows),
      },
      // The left foot comes down at the beginning, the right one half a cycle later.
      feet: { foot_l: stepping(u, stride, lift, stance), foot_r: stepping(u + right.later, stride, right.lift, right.stance) },
    };
  };
}

/** Thrown onto the back: 0 stands, 1 lies. The legs go with the hips. */
const thrown = (share: number): MotionPose => {
  const gone = smooth(share);
  // What falls goes back at first and down later.
  const down = gone * gone;
  return {
    root: [0, -0.035 * (1 - down) - 0.84 * down, -0.42 * gone],
    turns: { hips: [-86 * down, 0, 0], head: [14 * gone * (1 - gone), 0, 0], ...hanging(8 + 34 * gone, 0, 8 + 10 * gone) },
    feet: {},
  };
};

/** A blow: the trunk gives way and comes back. @param ahead −1 to 1: pushed back, or forward; @param left −1 to 1 */
const blow =
  (ahead: number, left: number) =>
  (u: number): MotionPose => {
    const give = u < 0.22 ? smooth(u / 0.22) : 1 - smooth((u - 0.22) / 0.78);
    return {
      ...none,
      turns: {
        spine: [10 * ahead * give, 0, -8 * left * give],
        chest: [16 * ahead * give, 0, -12 * left * give],
        head: [-12 * ahead * give, 0, 10 * left * give],
        ...hanging(8 + 6 * give, 6 * ahead * give, 8 + 26 * give),
      },
      feet: { foot_l: still(), foot_r: still() },
    };
  };

/** A blow on the head: it is thrown aside and comes back, the trunk follows a little. @param ahead See `blow` @param left −1 to 1 */
const blowOnHead =
  (ahead: number, left: number) =>
  (u: number): MotionPose => {
    const give = u < 0.16 ? smooth(u / 0.16) : 1 - smooth((u - 0.16) / 0.84);
    return {
      ...none,
      turns: {
        spine: [3 * ahead * give, 0, -2 * left * give],
        chest: [6 * ahead * give, 0, -5 * left * give],
        head: [26 * ahead * give, 14 * left * give, -20 * left * give],
        ...hanging(8, 3 * ahead * give, 8 + 10 * give),
      },
      feet: { foot_l: still(), foot_r: still() },
    };
  };

/** A blow on the left leg: the knees give way, the weight goes over to the right one, and comes back. */
const blowOnLeg = (u: number): MotionPose => {
  const give = u < 0.3 ? smooth(u / 0.3) : 1 - smooth((u - 0.3) / 0.7);
  return {
    root: [-0.06 * give, -0.16 * give, 0.02 * give],
    turns: {
      hips: [6 * give, 0, -7 * give],
      spine: [12 * give, 0, 10 * give],
      chest: [4 * give, 0, 4 * give],
      head: [-12 * give, 0, -6 * give],
      ...hanging(8 + 10 * give, 10 * give, 8 + 22 * give),
    },
    feet: { foot_l: still(), foot_r: still() },
  };
};

const struck = (id: string, where: string, gives: string, pose: LibraryMotion['pose'], seconds = 0.6): LibraryMotion => ({
  id: `hit-${id}`,
  title: `Hit ${where}`,
  about: `A blow ${where}: ${gives}`,
  skeleton: 'body',
  seconds,
  loop: 'once',
  travel: 0,
  pose,
});

const TRUNK_GIVES = 'the trunk gives way and comes back.';
const HEAD_GIVES = 'the head is thrown aside and comes back.';

const crouched = (u: number): MotionPose => ({
  root: [0, -0.36 + 0.008 * wave(u), -0.05],
  turns: { hips: [18, 0, 0], spine: [12, 0, 0], chest: [6, 0, 0], head: [-28 + wave(u), 0, 0], ...hanging(6, 18, 38) },
  feet: { foot_l: still(), foot_r: still() },
});

/** Motions for bodies on two legs. */
export const BODY_MOTIONS: LibraryMotion[] = [
  {
    id: 'idle',
    title: 'Idle',
    about: 'Stands and breathes, the weight going from one leg to the other.',
    skeleton: 'body',
    seconds: 4,
    loop: 'loop',
    travel: 0,
    pose: (u) => ({
      root: [0.022 * wave(u), -0.012 + 0.004 * wave(2 * u), 0],
      turns: {
        hips: [0, 1.5 * wave(u), 1.2 * wave(u)],
        spine: [1.2 * wave(2 * u), 0, -1.2 * wave(u)],
        chest: [1.6 * wave(2 * u, 0.05), 0, 0],
        head: [-1.2 * wave(2 * u), 4 * wave(u, 0.15), 0],
        ...hanging(6, 1.5 * wave(u), 8),
      },
      feet: { foot_l: still(), foot_r: still() },
    }),
  },
  {
    id: 'walk',
    title: 'Walk',
    about: 'Two steps, without hurry.',
    skeleton: 'body',
    seconds: 1.1,
    loop: 'loop',
    travel: 1.15,
    pose: gait({ stride: 1.15, lift: 0.13, stance: 0.6, lean: 4, bob: 0.014, arms: 24, elbows: 12, twist: 6 }),
  },
  {
    id: 'run',
    title: 'Run',
    about: 'Two leaps, leaning forward.',
    skeleton: 'body',
    seconds: 0.7,
    loop: 'loop',
    travel: 2.3,
    pose: gait({ stride: 2.3, lift: 0.34, stance: 0.34, lean: 16, bob: 0.03, arms: 46, elbows: 68, twist: 11 }),
  },
  {
    id: 'crouch',
    title: 'Crouch',
    about: 'Low on both feet, looking ahead.',
    skeleton: 'body',
    seconds: 3,
    loop: 'loop',
    travel: 0,
    pose: crouched,
  },
  {
    id: 'limp',
    title: 'Limp',
    about: 'Two steps, the right leg spared.',
    skeleton: 'body',
    seconds: 1.5,
    loop: 'loop',
    travel: 0.7,
    pose: gait({
      stride: 0.7,
      lift: 0.12,
      stance: 30 / 45,
      lean: 8,
      bob: 0.016,
      arms: 12,
      elbows: 20,
      twist: 3,
      right: { stance: 23 / 45, lift: 0.06, later: 21 / 45 },
    }),
  },
  {
    id: 'sneak',
    title: 'Sneak',
    about: 'Two steps, low, with care.',
    skeleton: 'body',
    seconds: 1.5,
    loop: 'loop',
    travel: 0.75,
    pose: gait({ stride: 0.75, lift: 0.16, stance: 0.62, lean: 26, bob: 0.01, arms: 10, elbows: 46, twist: 4, low: 0.2 }),
  },
  {
    id: 'raise',
    title: 'Raise',
    about: 'The right hand is lifted before the chest and a little above, and held there.',
    skeleton: 'body',
    seconds: 0.7,
    loop: 'hold',
    travel: 0,
    pose: (u) => {
      const up = smooth(Math.min(1, u / 0.8));
      const { upper_arm_l, forearm_l, forearm_r } = hanging(8, 0, 8);
      return {
        ...none,
        turns: { upper_arm_l, forearm_l, upper_arm_r: [-62 * up, 0, -8 - 16 * up], forearm_r: [forearm_r![0] - 62 * up, 0, 0] },
        feet: { foot_l: still(), foot_r: still() },
      };
    },
  },
  struck('front', 'from the front', TRUNK_GIVES, blow(-1, 0)),
  struck('back', 'from behind', TRUNK_GIVES, blow(1, 0)),
  struck('left', 'from the left', TRUNK_GIVES, blow(0, -1)),
  struck('right', 'from the right', TRUNK_GIVES, blow(0, 1)),
  struck('head-front', 'on the head from the front', HEAD_GIVES, blowOnHead(-1, 0)),
  struck('head-back', 'on the head from behind', HEAD_GIVES, blowOnHead(1, 0)),
  struck('head-left', 'on the head from the left', HEAD_GIVES, blowOnHead(0, -1)),
  struck('leg-left', 'on the left leg', 'the knees give way, and it stands again.', blowOnLeg, 0.9),
  {
    id: 'fall',
    title: 'Fall',
    about: 'Thrown onto the back, and stays there.',
    skeleton: 'body',
    seconds: 0.9,
    loop: 'hold',
    travel: 0,
    pose: thrown,
  },
  {
    id: 'rise',
    title: 'Rise',
    about: 'Up from the back again.',
    skeleton: 'body',
    seconds: 1.4,
    loop: 'once',
    travel: 0,
    pose: (u) => thrown(1 - u),
  },
  {
    id: 'wave',
    title: 'Wave',
    about: 'The left arm goes up and waves, and comes down again.',
    skeleton: 'body',
    seconds: 2.6,
    loop: 'once',
    travel: 0,
    pose: (u) => {
      const up = smooth(Math.min(1, u / 0.22)) * smooth(Math.min(1, (1 - u) / 0.22));
      const beat = up * 26 * wave(3 * u);
      const arms = hanging(8, 0, 8);
      return {
        ...none,
        root: [0, -0.01, 0],
        turns: {
          ...arms,
          chest: [0, 4 * up, -3 * up],
          head: [0, 8 * up, -4 * up],
          upper_arm_l: [0, 0, 8 * (1 - up) + 112 * up],
          forearm_l: [-8 * (1 - up), 0, 52 * up + beat],
          hand_l: [0, 0, beat * 0.5],
        },
        feet: { foot_l: still(), foot_r: still() },
      };
    },
  },
  {
    id: 'jig',
    title: 'Jig',
    about: 'A sailor’s dance on the spot: knees up in turn, arms akimbo and out.',
    skeleton: 'body',
    seconds: 1.6,
    loop: 'loop',
    travel: 0,
    pose: (u) => {
      const beat = wrap(2 * u);
      const hop = Math.abs(Math.sin(TAU * 2 * u));
      const left = u < 0.5 ? Math.sin(Math.PI * beat) : 0;
      const right = u >= 0.5 ? Math.sin(Math.PI * beat) : 0;
      const kick = (share: number): FootPose => ({ at: [0, 0.42 * share, 0.22 * share] as Vec3, planted: share === 0, pitch: -18 * share });
      return {
        root: [0.05 * (right - left), -0.05 + 0.03 * hop, 0],
        turns: {
          hips: [0, 10 * (left - right), 0],
          spine: [3, -6 * (left - right), 4 * (left - right)],
          chest: [2, -6 * (left - right), 3 * (left - right)],
          head: [-4, 0, -5 * (left - right)],
          upper_arm_l: [-20 * right, 0, 48 + 34 * left],
          upper_arm_r: [-20 * left, 0, -48 - 34 * right],
          forearm_l: [-20, 0, 40 * left],
          forearm_r: [-20, 0, -40 * right],
        },
        feet: { foot_l: kick(left), foot_r: kick(right) },
      };
    },
  },
];
