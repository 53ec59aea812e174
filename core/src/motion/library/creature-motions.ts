import type { FootPose, LibraryMotion, MotionPose } from './library-motion';

const TAU = 2 * Math.PI;
const wave = (u: number, phase = 0) => Math.sin(TAU * (u + phase));
const wrap = (u: number) => u - Math.floor(u);
const smooth = (u: number) => u * u * (3 - 2 * u);

/** Both fins, each segment so much later and further than the one before. */
function fins(u: number, degrees: number, delay: number, gain: number, twist: number): MotionPose['turns'] {
  const at = (depth: number) => degrees * gain ** depth * wave(u, -depth * delay);
  const lean = (depth: number) => twist * wave(u, 0.25 - depth * delay);
  return {
    fin_root_l: [lean(0), 0, at(0)],
    fin_mid_l: [lean(1), 0, at(1)],
    fin_tip_l: [lean(2), 0, at(2)],
    fin_root_r: [lean(0), 0, -at(0)],
    fin_mid_r: [lean(1), 0, -at(1)],
    fin_tip_r: [lean(2), 0, -at(2)],
  };
}

const tail = (u: number, degrees: number, axis: 0 | 1): MotionPose['turns'] => {
  const turn = (by: number): [number, number, number] => (axis === 0 ? [by, 0, 0] : [0, by, 0]);
  return {
    tail: turn(degrees * wave(u, -0.1)),
    tail_mid: turn(degrees * 1.2 * wave(u, -0.22)),
    tail_end: turn(degrees * 1.4 * wave(u, -0.34)),
  };
};

/** Four feet in the order of a walk: one after the other, three on the ground at a time. */
function trot(u: number, stride: number, lift: number, stance: number): FootPose {
  const phase = wrap(u);
  if (phase < stance) return { at: [0, 0, stride * stance * (0.5 - phase / stance)], planted: true, pitch: 0 };
  const swing = (phase - stance) / (1 - stance);
  return {
    at: [0, lift * Math.sin(Math.PI * swing), stride * stance * (smooth(swing) - 0.5)],
    planted: false,
    pitch: -20 * Math.sin(Math.PI * swing),
  };
}

/** Motions for four legs, and for fins or wings. */
export const CREATURE_MOTIONS: LibraryMotion[] = [
  {
    id: 'swim',
    title: 'Swim',
    about: 'The body sways, fins and tail follow.',
    skeleton: 'fins',
    seconds: 2,
    loop: 'loop',
    travel: 0,
    pose: (u) => ({
      root: [0, 0, 0],
      turns: { trunk: [0, 4 * wave(u), 3 * wave(u, 0.1)], head: [0, -6 * wave(u), 0], ...fins(u, 14, 0.1, 1.1, 5), ...tail(u, 16, 1) },
      feet: {},
    }),
  },
  {
    id: 'flap',
    title: 'Flap',
    about: 'Both fins beat together, the tips late; the body rises and falls against them.',
    skeleton: 'fins',
    seconds: 1.2,
    loop: 'loop',
    travel: 0,
    pose: (u) => ({
      root: [0, -0.06 * wave(u, -0.02), 0],
      turns: { trunk: [3 * wave(u, 0.2), 0, 0], ...fins(u, 34, 0.12, 0.85, 8), ...tail(u, 8, 0) },
      feet: {},
    }),
  },
  {
    id: 'glide',
    title: 'Glide',
    about: 'Fins held out, hardly moving.',
    skeleton: 'fins',
    seconds: 4,
    loop: 'loop',
    travel: 0,
    pose: (u) => ({
      root: [0, 0.03 * wave(u), 0],
      turns: { trunk: [2 * wave(u, 0.25), 0, 4 * wave(u)], ...fins(u, 5, 0.08, 1.2, 2), ...tail(u, 5, 0) },
      feet: {},
    }),
  },
  {
    id: 'four-walk',
    title: 'Four-legged walk',
    about: 'One foot after the other.',
    skeleton: 'four-legged',
    seconds: 1.3,
    loop: 'loop',
    travel: 1,
    pose: (u) => ({
      root: [0.01 * wave(u), -0.02 + 0.01 * wave(2 * u), 0],
      turns: {
        hips: [0, 3 * wave(u), 2 * wave(u)],
        spine: [0, -3 * wave(u), 0],
        chest: [0, -2 * wave(u), -2 * wave(u)],
        neck: [3 * wave(2 * u), 0, 0],
        head: [-2 * wave(2 * u), 0, 0],
        tail: [0, 10 * wave(u), 0],
        tail_end: [0, 14 * wave(u, -0.15), 0],
      },
      feet: {
        hind_foot_l: trot(u, 1, 0.12, 0.7),
        fore_foot_l: trot(u + 0.75, 1, 0.12, 0.7),
        hind_foot_r: trot(u + 0.5, 1, 0.12, 0.7),
        fore_foot_r: trot(u + 0.25, 1, 0.12, 0.7),
      },
    }),
  },
];
