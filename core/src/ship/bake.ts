import { partOf, readArray, type Blobs, type Clip, type Id, type KeyTrack, type Kit, type Quat, type Track } from '../document';
import { angleBetweenQuats, flattenParts, MeasuredVertices, Poser, slerpQuats, worldsFromLocals } from '../geometry';
import {
  compileClip,
  easingCorners,
  localLimits,
  PoseDifference,
  poseOfClip,
  sampleClip,
  seek,
  timesBetween,
  tooFarOff,
  type CompiledClip,
  type LocalLimits,
  type PoseAt,
} from '../motion';

export interface BakeOptions {
  /** Greatest difference of a turn, degrees. */
  toleranceDegrees?: number;
  /** Greatest way that any vertex may be off in the world, in the kit's unit. */
  toleranceLength?: number;
  /** A key stands on each frame of so many a second, where the motion is as it was made but for rounding. */
  frames?: number;
  /** Vertices at which it is measured, where they are others than the kit's own: those of the whole kit for a file without meshes. */
  vertices?: MeasuredVertices;
}

/** Straight keys of one part: local placements at strictly ascending times. */
export interface BakedKeys {
  part: Id;
  times: number[];
  translation: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  /** Morph weights, as many a key as the part's mesh has targets. */
  weights: Float64Array;
  moves: { translation: boolean; rotation: boolean; scale: boolean; weights: boolean };
}

/** A step in motion takes this long in a world of straight keys, seconds. */
const STEP_SECONDS = 1e-4;
/** Two keys stand no closer than this, seconds, but for those of a step. */
const LEAST_SPAN = 4e-5;
const TURN_BETWEEN_KEYS = 85;
const MAX_DEPTH = 16;

/** Rounds of measuring and baking again, finer, what is still too far off. */
const MOST_ROUNDS = 12;
/** Between the times that are looked at motion may be off by a little more. */
const MARGIN = 0.85;
/** Share of how far off it was before that is no gain. */
const STUCK = 0.97;

/**
 * A clip as straight keys for every part that moves, so that in the world, with all that is above a part and all that hangs on it, no
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
  const bake = (id: Id) => bakePart(samplers.get(id)!, { ...clip, tracks: byPart.get(id)! }, id, blobs, limits.get(id)!, options.frames);
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

/** When what is held goes on to its next value at once, seconds, ascending. */
function jumpTimes(clip: Clip, blobs: Blobs): number[] {
  const jumps = clip.tracks.flatMap((track) => {
    if (track.kind === 'keys') return track.keys.filter((_, i) => i > 0 && holds(track, i - 1)).map(({ time }) => time);
    return track.kind === 'samples' && track.interpolation === 'hold' ? [...readArray<Float32Array>(blobs, track.times)] : [];
  });
  return jumps.sort((a, b) => a - b);
}

const holds = (track: KeyTrack, key: number) => track.property === 'shown' || track.keys[key].easing === 'hold';

/** The pose of baked keys on a kit: lines between numbers, the shortest arc between turns, as glTF plays them. */
export function poseOfBaked(kit: Kit, baked: ReadonlyMap<Id, BakedKeys>): PoseAt {
  const poser = new Poser(flattenParts(kit));
  const { flat, translation, rotation, scale, world, pose } = poser;
  const movers = [...baked.values()].map((keys) => ({ keys, index: flat.indexOf.get(keys.part)!, cursor: 0 }));
  return (time) => {
    for (const one of movers) {
      const { keys, index } = one;
      const { times } = keys;
      const i = (one.cursor = seek(times, one.cursor, time));
      const u = i + 1 < times.length && time > times[i] ? (time - times[i]) / (times[i + 1] - times[i]) : 0;
      const mix = (from: Float64Array, width: number, to: Float64Array, at: number) => {
        for (let c = 0; c < width; c++) {
          const here = from[width * i + c];
          to[at + c] = u === 0 ? here : here + (from[width * (i + 1) + c] - here) * u;
        }
      };
      mix(keys.translation, 3, translation, 3 * index);
      mix(keys.scale, 3, scale, 3 * index);
      mix(keys.weights, flat.weightsAt[index + 1] - flat.weightsAt[index], pose.weights, flat.weightsAt[index]);
      const turn = (k: number) => [...keys.rotation.subarray(4 * k, 4 * k + 4)] as Quat;
      rotation.set(u === 0 ? turn(i) : slerpQuats(turn(i), turn(i + 1), u), 4 * index);
    }
    worldsFromLocals(flat, translation, rotation, scale, world);
    return poser;
  };
}

const finer = ({ metres, degrees, size, weights }: LocalLimits, by: number): LocalLimits => ({
  metres: metres * by,
  degrees: degrees * by,
  size: size * by,
  weights: weights.map((weight) => weight * by),
});

class PartSampler {
  private readonly poser: Poser;
  private readonly compiled: CompiledClip;

  constructor(kit: Kit, clip: Clip, id: Id, blobs: Blobs) {
    const alone = { ...kit, parts: { [id]: { ...partOf(kit, id), parent: null } } };
    this.poser = new Poser(flattenParts(alone));
    this.compiled = compileClip(clip, this.poser.flat, blobs);
  }

  /** Translation (3), rotation (4), scale (3), turns in degrees (3), morph weights. */
  at(time: number): number[] {
    const { pose } = this.poser;
    this.poser.reset();
    sampleClip(this.compiled, time, pose);
    this.poser.update();
    return [...this.poser.translation, ...this.poser.rotation, ...this.poser.scale, ...pose.turn, ...pose.weights];
  }
}

function bakePart(sampler: PartSampler, clip: Clip, id: Id, blobs: Blobs, limits: LocalLimits, frames = 0): BakedKeys {
  const times = cornerTimes(clip, blobs, frames);
  const jumps = new Set(jumpTimes(clip, blobs));
  const out: { time: number; row: number[] }[] = [{ time: times[0], row: sampler.at(times[0]) }];
  const add = (from: number, a: number[], to: number, b: number[], depth: number) => {
    // A step is as quick as it is to be.
    const step = to - from < 1.01 * STEP_SECONDS && jumps.has(to);
    if (depth < MAX_DEPTH && !step && !isStraight(sampler, from, a, to, b, limits)) {
      const middle = (from + to) / 2;
      const m = sampler.at(middle);
      add(from, a, middle, m, depth + 1);
      add(middle, m, to, b, depth + 1);
    } else out.push({ time: to, row: b });
  };
  for (let i = 0; i + 1 < times.length; i++) {
    const a = out.at(-1)!.row;
    const b = sampler.at(times[i + 1]);
    const travel = Math.abs(b[10] - a[10]) + Math.abs(b[11] - a[11]) + Math.abs(b[12] - a[12]);
    const pieces = times[i + 1] - times[i] > 2 * STEP_SECONDS ? Math.max(1, Math.ceil(travel / TURN_BETWEEN_KEYS)) : 1;
    let from = times[i];
    for (let p = 1; p <= pieces; p++) {
      const to = p === pieces ? times[i + 1] : times[i] + ((times[i + 1] - times[i]) * p) / pieces;
      add(from, out.at(-1)!.row, to, p === pieces ? b : sampler.at(to), 0);
      from = to;
    }
  }
  return toBakedPart(id, out, clip);
}

/** Times where the motion may have a corner: keys, steps, bounces, both ends; and each frame that is to be kept. */
function cornerTimes(clip: Clip, blobs: Blobs, frames: number): number[] {
  const times = [0, clip.lengthSeconds];
  for (let frame = 1; frame < clip.lengthSeconds * frames; frame++) times.push(frame / frames);
  for (const track of clip.tracks) {
    if (track.kind === 'samples') {
      const dense = readArray<Float32Array>(blobs, track.times);
      for (let i = 0; i < dense.length; i++) {
        times.push(dense[i]);
        if (track.interpolation === 'hold' && i > 0) times.push(dense[i] - STEP_SECONDS);
      }
      continue;
    }
    if (track.kind === 'formula') {
      // Where a formula has its corners nobody knows: it is looked at on every frame.
      for (let frame = 1; frame < clip.lengthSeconds * clip.rate; frame++) times.push(frame / clip.rate);
      continue;
    }
    track.keys.forEach((key, i) => {
      const next = track.keys[i + 1];
      times.push(key.time);
      if (!next) return;
      if (holds(track, i)) times.push(next.time - STEP_SECONDS);
      for (const corner of easingCorners(key.easing)) times.push(key.time + corner * (next.time - key.time));
    });
  }
  const sorted = times.filter((time) => time >= 0 && time <= clip.lengthSeconds).sort((a, b) => a - b);
  return sorted.filter((time, i) => i === 0 || time - sorted[i - 1] > STEP_SECONDS / 4);
}

/** Where a stretch is looked at: not evenly, so that what swings in step with it is seen. */
const PROBES = [0.17, 0.36, 0.5, 0.68, 0.87];

function isStraight(sampler: PartSampler, from: number, a: number[], to: number, b: number[], limits: LocalLimits): boolean {
  if (to - from <= LEAST_SPAN) return true;
  const { metres, degrees, size, weights } = limits;
  for (const u of PROBES) {
    const truth = sampler.at(from + (to - from) * u);
    const off = (c: number) => Math.abs(a[c] + (b[c] - a[c]) * u - truth[c]);
    for (let c = 0; c < 3; c++) if (off(c) > metres / 2) return false;
    for (let c = 7; c < 10; c++) if (off(c) > size / 2) return false;
    for (let c = 13; c < truth.length; c++) if (off(c) > weights[c - 13]) return false;
    if (angleBetweenQuats(slerp(a, b, u), [truth[3], truth[4], truth[5], truth[6]]) > degrees / 2) return false;
  }
  return true;
}

/** Of two rows of a sampler. */
function slerp(a: number[], b: number[], u: number): Quat {
  return slerpQuats(a.slice(3, 7) as Quat, b.slice(3, 7) as Quat, u);
}

function toBakedPart(id: Id, rows: { time: number; row: number[] }[], clip: Clip): BakedKeys {
  const baked: BakedKeys = {
    part: id,
    times: rows.map(({ time }) => time),
    translation: new Float64Array(3 * rows.length),
    rotation: new Float64Array(4 * rows.length),
    scale: new Float64Array(3 * rows.length),
    weights: Float64Array.from(rows.flatMap(({ row }) => row.slice(13))),
    moves: {
      translation: clip.tracks.some((track) => track.property === 'offset'),
      rotation: clip.tracks.some((track) => track.property === 'turn' || track.property === 'rotation'),
      scale: clip.tracks.some((track) => track.property === 'size' || track.property === 'shown'),
      weights: clip.tracks.some((track) => track.property === 'weights' || track.property === 'weight'),
    },
  };
  rows.forEach(({ row }, i) => {
    baked.translation.set(row.slice(0, 3), 3 * i);
    baked.rotation.set(row.slice(3, 7), 4 * i);
    baked.scale.set(row.slice(7, 10), 3 * i);
  });
  return baked;
}
