import { partOf, readArray, type Blobs, type Clip, type Id, type Kit, type KeyTrack, type Quat } from '../document';
import { angleBetweenQuats, flattenParts, Poser, slerpQuats } from '../geometry';
import { compileClip, easingCorners, hermite, sampleClip, type CompiledClip, type LocalLimits } from '../motion';
import type { BakedKeys, BakedValues } from './baked-keys';

/** A step in motion takes this long in a world of straight keys, seconds. */
export const STEP_SECONDS = 1e-4;
/** Times of corners that are nearer than this are one, seconds. */
export const SAME_TIME = STEP_SECONDS / 4;
/** Two keys stand no closer than this, seconds, but for those of a step. */
const LEAST_SPAN = 4e-5;
const TURN_BETWEEN_KEYS = 85;
const MAX_DEPTH = 16;

/** What a part has at a time: translation (3), rotation (4), scale (3), turns in degrees (3), morph weights. */
type Row = number[];
const [ROTATION, SCALE, TURNS, WEIGHTS] = [3, 7, 10, 13];

/** A part's own numbers at any time of a clip. */
export class PartSampler {
  private readonly poser: Poser;
  private readonly compiled: CompiledClip;

  /** @param clip Its tracks of this part alone. */
  constructor(
    kit: Kit,
    readonly clip: Clip,
    readonly part: Id,
    readonly blobs: Blobs,
  ) {
    const alone = { ...kit, parts: { [part]: { ...partOf(kit, part), parent: null } } };
    this.poser = new Poser(flattenParts(alone));
    this.compiled = compileClip(clip, this.poser.flat, blobs);
  }

  /** @param near Its rotation is given as the nearer to that row's of the two quaternions that say the same */
  at(time: number, near?: Row): Row {
    const { pose } = this.poser;
    this.poser.reset();
    sampleClip(this.compiled, time, pose);
    this.poser.update();
    const row = [...this.poser.translation, ...this.poser.rotation, ...this.poser.scale, ...pose.turn, ...pose.weights];
    let dot = 0;
    for (let c = ROTATION; near && c < SCALE; c++) dot += near[c] * row[c];
    for (let c = ROTATION; dot < 0 && c < SCALE; c++) row[c] = -row[c];
    return row;
  }
}

/** How it goes from one row to the next. */
interface Way {
  /** @param u Share of the time, 0 to 1 */
  at(u: number): Row;
  /** Tangents at its two ends, a second. */
  out: Row;
  into: Row;
}

/** Lines between numbers, the shortest arc between turns. */
function straightWay(from: number, a: Row, to: number, b: Row): Way {
  const slopes = a.map((value, c) => (b[c] - value) / (to - from));
  const at = (u: number) => {
    const row = a.map((value, c) => value + (b[c] - value) * u);
    const turn = slerpQuats(a.slice(ROTATION, SCALE) as Quat, b.slice(ROTATION, SCALE) as Quat, u);
    for (let c = 0; c < 4; c++) row[ROTATION + c] = turn[c];
    return row;
  };
  return { at, out: slopes, into: slopes };
}

/** The cubic through both ends and what lies at a third and at two thirds (Lagrange), its quaternion brought to unit length. */
function cubicWay(sampler: PartSampler, from: number, a: Row, to: number, b: Row): Way {
  const span = to - from;
  const [m, n] = [1 / 3, 2 / 3].map((u) => sampler.at(from + span * u, a));
  const out = a.map((value, c) => (-11 * value + 18 * m[c] - 9 * n[c] + 2 * b[c]) / (2 * span));
  const into = a.map((value, c) => (-2 * value + 9 * m[c] - 18 * n[c] + 11 * b[c]) / (2 * span));
  const at = (u: number) => {
    const row = a.map((value, c) => hermite(u, value, out[c], b[c], into[c], span));
    const length = Math.hypot(...row.slice(ROTATION, SCALE)) || 1;
    for (let c = ROTATION; c < SCALE; c++) row[c] /= length;
    return row;
  };
  return { at, out, into };
}

/** Where a stretch is looked at: not evenly, so that what swings in step with it is seen. */
const PROBES = [0.17, 0.36, 0.5, 0.68, 0.87];

function isNear(sampler: PartSampler, from: number, to: number, way: Way, limits: LocalLimits): boolean {
  const { metres, degrees, size, weights } = limits;
  return PROBES.every((u) => {
    const truth = sampler.at(from + (to - from) * u);
    const row = way.at(u);
    const off = (c: number) => Math.abs(row[c] - truth[c]);
    for (let c = 0; c < ROTATION; c++) if (off(c) > metres / 2) return false;
    for (let c = SCALE; c < TURNS; c++) if (off(c) > size / 2) return false;
    for (let c = WEIGHTS; c < truth.length; c++) if (off(c) > weights[c - WEIGHTS]) return false;
    return angleBetweenQuats(row.slice(ROTATION, SCALE) as Quat, truth.slice(ROTATION, SCALE) as Quat) <= degrees / 2;
  });
}

/** A key, with how it is come to and left. */
interface BakedRow {
  time: number;
  row: Row;
  into: Row | null;
  out: Row | null;
}

/** How the keys of a part are to stand. */
export interface PartBake {
  limits: LocalLimits;
  /** Whether curves lead from key to key. */
  curves: boolean;
  /** Times at which a key is to stand, seconds. */
  at: readonly number[];
}

/**
 * One part's keys, by halving until what lies between two of them is within its limits.
 *
 * @param most More keys than these are not made
 * @returns null where there would be more
 */
export function bakePart(sampler: PartSampler, { limits, curves, at }: PartBake, most = Infinity): BakedKeys | null {
  const { clip, blobs } = sampler;
  const times = cornerTimes(clip, blobs, at);
  const jumps = new Set(jumpTimes(clip, blobs).map(Math.fround));
  const rows: BakedRow[] = [{ time: times[0], row: sampler.at(times[0]), into: null, out: null }];
  const put = (time: number, row: Row, { out, into }: Way) => {
    rows.at(-1)!.out = out;
    rows.push({ time, row, into, out: null });
  };
  const add = (from: number, a: Row, to: number, b: Row, depth: number): void => {
    // Late in a long clip a file's times lie so far apart that a piece may come to nothing.
    if (rows.length > most || to <= from) return;
    const middle = Math.fround((from + to) / 2);
    // A step is as quick as it is to be, and what is quicker than keys can be goes straight.
    const step = to - from < 1.01 * STEP_SECONDS && jumps.has(to);
    const whole = step || depth >= MAX_DEPTH || to - from <= LEAST_SPAN || middle <= from || middle >= to;
    const way = curves && !whole ? cubicWay(sampler, from, a, to, b) : straightWay(from, a, to, b);
    if (whole || isNear(sampler, from, to, way, limits)) {
      put(to, b, way);
      return;
    }
    const m = sampler.at(middle, a);
    add(from, a, middle, m, depth + 1);
    add(middle, m, to, b, depth + 1);
  };
  for (let i = 0; i + 1 < times.length; i++) {
    const a = rows.at(-1)!.row;
    const b = sampler.at(times[i + 1], a);
    const travel = Math.abs(b[TURNS] - a[TURNS]) + Math.abs(b[TURNS + 1] - a[TURNS + 1]) + Math.abs(b[TURNS + 2] - a[TURNS + 2]);
    const pieces = times[i + 1] - times[i] > 2 * STEP_SECONDS ? Math.max(1, Math.ceil(travel / TURN_BETWEEN_KEYS)) : 1;
    let from = times[i];
    for (let p = 1; p <= pieces; p++) {
      const to = p === pieces ? times[i + 1] : Math.fround(times[i] + ((times[i + 1] - times[i]) * p) / pieces);
      const last = rows.at(-1)!.row;
      add(from, last, to, sampler.at(to, last), 0);
      from = to;
    }
  }
  return rows.length > most ? null : toBaked(sampler, rows, curves);
}

/** Times where the motion may have a corner: keys, steps, bounces, both ends; and those at which a key is to stand. */
function cornerTimes(clip: Clip, blobs: Blobs, at: readonly number[]): number[] {
  const times = [0, clip.lengthSeconds, ...at];
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
  const inside = times.filter((time) => time >= 0 && time <= clip.lengthSeconds);
  // As a file has them: what is quick would be elsewhere at a time that was rounded afterwards.
  const sorted = inside.map(Math.fround).sort((a, b) => a - b);
  return sorted.filter((time, i) => i === 0 || time - sorted[i - 1] > SAME_TIME);
}

/** When what is held goes on to its next value at once, seconds, ascending. */
export function jumpTimes(clip: Clip, blobs: Blobs): number[] {
  const jumps = clip.tracks.flatMap((track) => {
    if (track.kind === 'keys') return track.keys.filter((_, i) => i > 0 && holds(track, i - 1)).map(({ time }) => time);
    return track.kind === 'samples' && track.interpolation === 'hold' ? [...readArray<Float32Array>(blobs, track.times)] : [];
  });
  return jumps.sort((a, b) => a - b);
}

const holds = (track: KeyTrack, key: number) => track.property === 'shown' || track.keys[key].easing === 'hold';

function toBaked({ clip, part }: PartSampler, rows: readonly BakedRow[], curves: boolean): BakedKeys {
  const still = rows[0].row.map(() => 0);
  const moved = (...properties: string[]) => clip.tracks.some(({ property }) => properties.includes(property));
  return {
    part,
    times: rows.map(({ time }) => time),
    ...valuesOf(rows.map(({ row }) => row)),
    ...(curves && {
      curves: { into: valuesOf(rows.map(({ into }) => into ?? still)), out: valuesOf(rows.map(({ out }) => out ?? still)) },
    }),
    moves: {
      translation: moved('offset'),
      rotation: moved('turn', 'rotation'),
      scale: moved('size', 'shown'),
      weights: moved('weights', 'weight'),
    },
  };
}

function valuesOf(rows: readonly Row[]): BakedValues {
  const numbers = (from: number, to?: number) => Float64Array.from(rows.flatMap((row) => row.slice(from, to)));
  return { translation: numbers(0, ROTATION), rotation: numbers(ROTATION, SCALE), scale: numbers(SCALE, TURNS), weights: numbers(WEIGHTS) };
}
