import { PlainGlb, plainTurn, type PlainChannel } from './plain-glb';
import type { Random } from './random';

/** A ride that somebody else made, and what of it is what. */
export interface StrangerRide {
  bytes: Uint8Array;
  /** Names of the parts that stand, that carry people, and that are sat on, as the file has them. */
  deck: string;
  mover: string;
  chairs: string[];
  clip: string;
  seconds: number;
}

const smooth = (u: number) => 0.5 - 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, u)));

/**
 * A deck with a step, a mast, and a gondola of chairs that goes up, round and down: in any unit, y or z up, the root sized and turned, its
 * mast mirrored, chairs with axes of their own and names given twice, an empty part; keys in lines or in cubics.
 */
export function strangerRide(random: Random): StrangerRide {
  const glb = new PlainGlb();
  const perMetre = random.oneOf([1, 100, 1 / 0.0254]);
  const zUp = random.chance(0.5);
  // From our axes, y up, into those of the file.
  const way = (x: number, y: number, z: number) => (zUp ? [x, -z, y] : [x, y, z]);
  const place = (x: number, y: number, z: number) => way(x, y, z).map((value) => value * perMetre);
  const size = (x: number, y: number, z: number) => place(x, y, z).map(Math.abs);
  const up = zUp ? 2 : 1;
  const box = (name: string, x: number, y: number, z: number, middle: [number, number, number] = [0, 0, 0]) =>
    glb.box(name, size(x, y, z), place(...middle));

  const names = random.chance(0.5) ? ['Chair'] : ['Chair.001', 'Chair.002', 'seat left', 'seat right', 'Chair.001'];
  const count = random.whole(2, 4);
  // Whole centimetres: what is nearly one is put there by a mend of rounding.
  const deckHeight = random.whole(8, 20) / 100;
  const chairs = Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count + 0.1;
    const back = glb.node({ name: 'back', mesh: box('back', 0.5, 0.6, 0.08), translation: place(0, 0.3, -0.21) });
    return glb.node({
      name: names[i % names.length],
      mesh: box('seat', 0.5, 0.08, 0.5),
      translation: place(1.15 * Math.sin(angle), 0.4, 1.15 * Math.cos(angle)),
      rotation: plainTurn(up, angle),
      children: [back],
    });
  });
  const rest = deckHeight + 0.2;
  const gondola = glb.node({ name: 'Gondola', mesh: box('plate', 2, 0.1, 2), translation: place(0, rest, 0), children: chairs });
  const mirrored = random.chance(0.5) ? { scale: [-1, 1, 1] } : {};
  const mast = glb.node({ name: 'Mast ', mesh: box('mast', 0.3, 4.2, 0.3), translation: place(0, 2.3, 0), ...mirrored });
  const deck = glb.node({ name: 'Deck', mesh: box('deck', 5.4, deckHeight, 5.4), translation: place(0, deckHeight / 2, 0) });
  const step = glb.node({ name: 'step', mesh: box('step', 1.4, deckHeight / 2, 0.4), translation: place(0, deckHeight / 4, 2.9) });
  const empty = glb.node({ name: 'Empty' });
  const root = glb.node({
    name: 'Lift.scene',
    scale: [1, 1, 1].map((value) => value / perMetre),
    rotation: zUp ? plainTurn(0, -Math.PI / 2) : [0, 0, 0, 1],
    translation: random.chance(0.5) ? [random.between(-3, 3), 0, random.between(-3, 3)] : [0, 0, 0],
    children: [deck, step, gondola, mast, empty],
  });

  const seconds = random.whole(6, 12);
  const [rounds, height] = [random.whole(0, 2), random.between(0.5, 2.6)];
  const angle = (time: number) => 2 * Math.PI * rounds * smooth((time - 2) / (seconds - 4));
  const lift = (time: number) => rest + height * (smooth((time - 1) / 2) - smooth((time - seconds + 3) / 2));
  const clip = random.oneOf(['Action', 'go round!', 'Take 001']);
  const at = (time: number) => [place(0, lift(time), 0), plainTurn(up, angle(time))] as const;
  glb.animation(clip, channelsOf(random, gondola, seconds, at));
  return { bytes: glb.write([root]), deck: 'Deck', mover: 'Gondola', chairs: names.slice(0, count), clip, seconds };
}

/** Many keys in lines, or fewer in cubics with tangents from the motion itself, a second. */
function channelsOf(random: Random, node: number, seconds: number, at: (time: number) => readonly [number[], number[]]): PlainChannel[] {
  const curved = random.chance(0.5);
  const rate = curved ? random.whole(2, 5) : random.whole(12, 60);
  const times = Array.from({ length: seconds * rate + 1 }, (_, i) => i / rate);
  const [h, paths] = [1e-4, ['translation', 'rotation'] as const];
  return paths.map((path, which): PlainChannel => {
    const value = (time: number) => at(time)[which];
    const slope = (time: number) => value(time + h).map((later, c) => (later - value(time - h)[c]) / (2 * h));
    const rows = times.flatMap((time) => (curved ? [slope(time), value(time), slope(time)] : [value(time)]));
    return { node, path, interpolation: curved ? 'CUBICSPLINE' : 'LINEAR', times, rows };
  });
}
