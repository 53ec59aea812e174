import { blockFigureGlb, type Block, type BlockMotion } from './block-figure';

type Point = [number, number, number];

const RATE = 30;
/** How long one round of the jig takes, and the take that it is somewhere in. */
export const JIG = { seconds: 1.6, take: 9, begins: 1.9, ends: 7.6 };

const BLOCKS: Block[] = [
  { name: 'Effect', parent: null, pivot: [0, 0, 0] },
  { name: 'Diver', parent: 'Effect', pivot: [0, 0.42, 0], from: [-0.13, 0.36, -0.1], to: [0.13, 0.66, 0.1] },
  { name: 'Helmet', parent: 'Diver', pivot: [0, 0.66, 0], from: [-0.11, 0.66, -0.11], to: [0.11, 0.88, 0.12] },
  { name: 'Window', parent: 'Helmet', pivot: [0, 0.77, 0.12], from: [-0.06, 0.71, 0.12], to: [0.06, 0.83, 0.135], paint: 'glass' },
  { name: 'Arm_L', parent: 'Diver', pivot: [0.13, 0.62, 0], from: [0.13, 0.36, -0.05], to: [0.22, 0.65, 0.05] },
  { name: 'Arm_R', parent: 'Diver', pivot: [-0.13, 0.62, 0], from: [-0.22, 0.36, -0.05], to: [-0.13, 0.65, 0.05] },
  { name: 'Leg_L', parent: 'Diver', pivot: [0.07, 0.38, 0], from: [0.01, 0.02, -0.06], to: [0.12, 0.38, 0.07] },
  { name: 'Leg_R', parent: 'Diver', pivot: [-0.07, 0.38, 0], from: [-0.12, 0.02, -0.06], to: [-0.01, 0.38, 0.07] },
];

/** The diver's take, a frame at a time: he walks on, gets ready, dances some rounds, none quite like the other, and tires. */
function takeOf(): BlockMotion[] {
  const frames = Array.from({ length: JIG.take * RATE + 1 }, (_, i) => i / RATE);
  let state = 41;
  const shake = () => ((state = (state * 16807) % 2147483647) / 2147483647 - 0.5) * 0.9;
  const w = (2 * Math.PI) / JIG.seconds;
  const share = (time: number) => Math.min(1, Math.max(0, (time - JIG.begins) / 0.4)) * Math.min(1, Math.max(0, (JIG.ends - time) / 0.4));
  const turns = (shape: (time: number) => Point): Point[] =>
    frames.map((time) => shape(time).map((value) => value * share(time) + shake() * share(time) * 0.5) as Point);
  const step = (time: number) => Math.sin(w * time);
  return [
    {
      block: 'Diver',
      turns: turns((time) => [3 * Math.sin(2 * w * time), 14 * step(time), 5 * step(time)]),
      offsets: frames.map((time): Point => [
        0.02 * step(time) * share(time),
        0.035 * Math.abs(Math.sin(w * time)) * share(time),
        time < JIG.begins ? -0.25 * (1 - time / JIG.begins) : 0,
      ]),
    },
    { block: 'Helmet', turns: turns((time) => [4 * Math.sin(2 * w * time + 1), -10 * step(time), -6 * step(time)]) },
    { block: 'Arm_L', turns: turns((time) => [-30 * Math.max(0, step(time)), 0, 40 + 30 * step(time)]) },
    { block: 'Arm_R', turns: turns((time) => [-30 * Math.max(0, -step(time)), 0, -40 + 30 * step(time)]) },
    { block: 'Leg_L', turns: turns((time) => [-55 * Math.max(0, step(time)), 0, 4]) },
    { block: 'Leg_R', turns: turns((time) => [-55 * Math.max(0, -step(time)), 0, -4]) },
  ];
}

/** The brass diver's GLB with its raw take. */
export function buildBrassDiverGlb(): Promise<Uint8Array> {
  return blockFigureGlb(
    'Brass diver',
    BLOCKS,
    { brass: { colour: [0.72, 0.47, 0.16] }, glass: { colour: [0.12, 0.3, 0.34] } },
    { name: 'take 3', rate: RATE, motions: takeOf() },
  );
}
