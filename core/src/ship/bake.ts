import type { Blobs, Clip, Id, Kit, Track } from '../document';
import { MeasuredVertices } from '../geometry';
import { localLimits, PoseDifference, poseOfClip, timesBetween, tooFarOff, type LocalLimits } from '../motion';
import { bakePart, jumpTimes, PartSampler, STEP_SECONDS, type PartBake } from './bake-part';
import { poseOfBaked, type BakedKeys } from './baked-keys';

export interface BakeOptions {
  /** Greatest difference of a turn, degrees. */
  toleranceDegrees?: number;
  /** Greatest way that any vertex may be off in the world, in the kit's unit. */
  toleranceLength?: number;
  /** Whether curves lead from key to key: always, or for each part whichever takes fewer numbers. */
  curves?: 'always' | 'fewer';
  /** Times at which a key is to stand, seconds. */
  at?: readonly number[];
  /** Vertices at which it is measured, where they are others than the kit's own: those of the whole kit for a file without meshes. */
  vertices?: MeasuredVertices;
}

/** Rounds of measuring and baking again, finer, what is still too far off. */
const MOST_ROUNDS = 12;
/** Between the times that are looked at motion may be off by a little more. */
const MARGIN = 0.85;
/** Share of how far off it was before that is no gain. */
const STUCK = 0.97;

/**
 * A clip as keys for every part that moves, so that in the world, with all that is above a part and all that hangs on it, no
 * vertex is further off than the tolerance: adaptive subdivision of each part's own numbers within its share of it, then measured as a
 * whole, at every part's vertices, deformed ones too, between all keys; what moves those that are too far off is baked again, finer. Turns
 * get a key at least every 90°, so that the shortest path is the right one.
 */
export function bakeClip(kit: Kit, clip: Clip, blobs: Blobs, options: BakeOptions = {}): BakedKeys[] {
  const tolerance = { degrees: options.toleranceDegrees ?? 0.25, metres: options.toleranceLength ?? 0.001 };
  const byPart = new Map<Id, Track[]>();
  for (const track of clip.tracks) byPart.set(track.part, [...(byPart.get(track.part) ?? []), track]);
  if (byPart.size === 0) return [];
  const vertices = options.vertices ?? new MeasuredVertices(kit, blobs);
  const limits = localLimits(kit, clip, blobs, vertices, tolerance);
  const samplers = new Map([...byPart].map(([id, tracks]) => [id, new PartSampler(kit, { ...clip, tracks }, id, blobs)]));
  const bake = (id: Id) => bakeAs(samplers.get(id)!, limits.get(id)!, options);
  const baked = new Map([...byPart.keys()].map((id) => [id, bake(id)]));
  const truth = poseOfClip(kit, clip, blobs);
  const first = new Map(limits);
  const before = new Map<Id, number>();
  const stuck = new Map<Id, number>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const difference = new PoseDifference(vertices, truth, poseOfBaked(kit, baked), first);
    for (const time of bakedLooks(clip, blobs, [...baked.values()], vertices.count)) difference.look(time);
    const again = tooFarOff(kit, difference, baked.keys(), { metres: tolerance.metres, degrees: Infinity }, MARGIN);
    // What came no nearer by finer keys is quicker than keys can be: more of them would not help.
    for (const [id, share] of again) {
      stuck.set(id, share > STUCK * (before.get(id) ?? Infinity) ? (stuck.get(id) ?? 0) + 1 : 0);
      before.set(id, share);
      if (stuck.get(id)! >= 2) again.delete(id);
    }
    if (again.size === 0) break;
    for (const [id, share] of again) {
      limits.set(id, finer(limits.get(id)!, Math.max(0.2, (0.8 * MARGIN) / share)));
      baked.set(id, bake(id));
    }
  }
  return [...baked.values()];
}

/** A key of a curve has three times as many numbers. */
const CURVE_NUMBERS = 3;

function bakeAs(sampler: PartSampler, limits: LocalLimits, { curves, at = [] }: BakeOptions): BakedKeys {
  const how: PartBake = { limits, curves: curves !== undefined, at };
  // Samples in lines are what they are: curves would be three times as many numbers, and twice the work to find out.
  const lines = sampler.clip.tracks.every((track) => track.kind === 'samples' && track.interpolation === 'straight');
  if (curves === 'fewer' && lines) return bakePart(sampler, { ...how, curves: false })!;
  const baked = bakePart(sampler, how)!;
  if (curves !== 'fewer') return baked;
  return bakePart(sampler, { ...how, curves: false }, CURVE_NUMBERS * baked.times.length) ?? baked;
}

/** At the most so many vertices are placed in a round, at all times together; at the least so many times are looked at. */
const MOST_PLACED = 1e6;
const LEAST_LOOKS = 3000;

/**
 * Times between all keys, evenly fewer where there is very much to look at, and none within a step, which takes its moment.
 *
 * @param vertices How many are placed at a time.
 */
export function bakedLooks(clip: Clip, blobs: Blobs, baked: readonly BakedKeys[], vertices: number): number[] {
  const times = [...new Set(baked.flatMap((part) => part.times))].sort((a, b) => a - b);
  const looks = awayFromSteps(clip, blobs, timesBetween(times, 0));
  const every = Math.ceil(looks.length / Math.max(LEAST_LOOKS, MOST_PLACED / vertices));
  // Another remainder of every three keeps quarters and halves among those that are left.
  return looks.filter((_, i) => i % every === (Math.floor(i / every) * 7) % every);
}

/** Of ascending times those that do not fall into a step, each a moment after the one before. */
export function awayFromSteps(clip: Clip, blobs: Blobs, times: readonly number[]): number[] {
  const jumps = jumpTimes(clip, blobs);
  let next = 0;
  let last = -1;
  return times.filter((time) => {
    while (next < jumps.length && jumps[next] < time - 1e-7) next++;
    if (jumps[next] - time < 1.01 * STEP_SECONDS || time - last < STEP_SECONDS / 2) return false;
    last = time;
    return true;
  });
}

const finer = ({ metres, degrees, size, weights }: LocalLimits, by: number): LocalLimits => ({
  metres: metres * by,
  degrees: degrees * by,
  size: size * by,
  weights: weights.map((weight) => weight * by),
});
