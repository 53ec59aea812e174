import { emptyKit, MemoryBlobs, newPart, putArray, type Id, type Kit, type Vec3 } from '../document';
import { surfaceOf } from '../grounds';
import type { Random } from './random';

/** A plot that somebody might build: platforms with stairs or ramps, walls with gaps, low beams; a seat somewhere on it. */
export interface RandomPlot {
  kit: Kit;
  blobs: MemoryBlobs;
  /** Where the seat is, metres. */
  seat: Vec3;
  /** Nine numbers a triangle, all of the plot, in the world: what a walker who knows no kit sees. */
  triangles: number[];
}

/** Half the side of a plot of 4 × 4 tiles of 2 m. */
export const HALF = 4;

const block = (low: Vec3, high: Vec3): number[] =>
  Array.from(
    surfaceOf({
      shape: 'box',
      at: low.map((value, axis) => (value + high[axis]) / 2) as Vec3,
      size: low.map((value, axis) => high[axis] - value) as Vec3,
    }),
  );

/** A ramp up to `top` from z0, where it is flat on the ground, to z1. */
const ramp = (x0: number, x1: number, z0: number, z1: number, top: number): number[] =>
  Array.from(
    surfaceOf({
      shape: 'hull',
      points: [x0, x1].flatMap((x): Vec3[] => [
        [x, -0.02, z0],
        [x, 0, z0],
        [x, -0.02, z1],
        [x, top, z1],
      ]),
    }),
  );

/** Steps, clearances, widths and slopes keep well off what visitors can just do, so that no rounding decides. */
const STEPS = [0.12, 0.16, 0.2, 0.3, 0.36];
const CLEARANCES = [1.2, 1.5, 2.1, 2.6];
const GAPS = [0.25, 0.35, 0.95, 1.3];
const SLOPES = [18, 28, 48, 60];

/** A plot of a number. */
export function randomPlot(random: Random): RandomPlot {
  const pieces: [string, number[]][] = [];
  // A platform at the back, with a way up in front of it.
  const [x0, x1] = [random.between(-3, -1.2), random.between(1.2, 3)];
  const z1 = 3.2;
  const z0 = random.between(0.6, 1.6);
  const step = random.oneOf(STEPS);
  const steps = random.whole(1, 5);
  const top = step * steps;
  pieces.push(['platform', block([x0, 0, z0], [x1, top, z1])]);
  const width = random.oneOf([0.3, 1.1, 1.5]);
  const at = random.between(x0 + width / 2, x1 - width / 2);
  if (random.chance(0.6)) {
    for (let i = 1; i < steps; i++) {
      const deep = random.between(0.3, 0.34);
      pieces.push([`step ${i}`, block([at - width / 2, 0, z0 - deep * (steps - i)], [at + width / 2, step * i, z0])]);
    }
  } else {
    const run = top / Math.tan((random.oneOf(SLOPES) * Math.PI) / 180);
    pieces.push(['ramp', ramp(at - width / 2, at + width / 2, Math.max(-3.8, z0 - run), z0 + 0.001, top)]);
  }
  // A wall across, with or without a gap.
  if (random.chance(0.6)) {
    const z = random.between(-2.6, -1.8);
    const gap = random.oneOf(GAPS);
    const middle = random.between(-2.5, 2.5);
    pieces.push(['wall left', block([-HALF, 0, z], [middle - gap / 2, 1.6, z + 0.2])]);
    if (random.chance(0.85)) pieces.push(['wall right', block([middle + gap / 2, 0, z], [HALF, 1.6, z + 0.2])]);
    for (const side of [-1, 1])
      if (random.chance(0.7)) pieces.push([`side ${side}`, block([side * 3.9 - 0.1, 0, z], [side * 3.9 + 0.1, 1.4, HALF])]);
    if (random.chance(0.7)) pieces.push(['back', block([-HALF, 0, 3.8], [HALF, 1.5, HALF])]);
  }
  // A beam over the way.
  if (random.chance(0.5)) {
    const low = random.oneOf(CLEARANCES);
    const z = random.between(-1, 0.4);
    pieces.push(['beam', block([-HALF, low, z], [HALF, low + 0.2, z + 0.3])]);
  }
  for (let i = random.whole(0, 3); i > 0; i--) {
    const [x, z] = [random.between(-3, 3), random.between(-3.5, 0)];
    pieces.push([`post ${i}`, block([x - 0.15, 0, z - 0.15], [x + 0.15, random.between(0.5, 2), z + 0.15])]);
  }
  const seat: Vec3 = [random.between(x0 + 0.5, x1 - 0.5), top + 0.45, random.between(z0 + 0.5, z1 - 0.5)];
  return { ...kitOf(pieces, seat), seat, triangles: pieces.flatMap(([, corners]) => corners) };
}

function kitOf(pieces: readonly [string, number[]][], seat: Vec3): { kit: Kit; blobs: MemoryBlobs } {
  const kit = emptyKit('Plot');
  const blobs = new MemoryBlobs();
  const put = (id: Id, fields: Partial<Kit['parts'][Id]>) => (kit.parts[id] = newPart({ id, name: id, ...fields }));
  put('plot', {});
  for (const [name, corners] of pieces) {
    const id = name.replace(' ', '-');
    kit.meshes[id] = {
      id,
      name,
      primitives: [
        {
          attributes: { POSITION: putArray(blobs, Float32Array.from(corners), 3) },
          indices: putArray(
            blobs,
            Uint32Array.from({ length: corners.length / 3 }, (_, i) => i),
            1,
          ),
          material: null,
        },
      ],
    };
    put(id, { parent: 'plot', mesh: id });
  }
  put('bench', { parent: 'plot' });
  put('seat-01', { parent: 'bench', role: 'seat', translation: seat });
  kit.grounds = { footprint: { low: [-HALF, 0, -HALF], high: [HALF, 0, HALF], holes: [] }, states: [], glows: [], facts: {} };
  return { kit, blobs };
}
