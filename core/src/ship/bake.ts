import { partOf, readArray, type Blobs, type Clip, type Id, type Kit, type Quat, type Track } from '../document';
import { angleBetweenQuats, flattenParts, Poser, reachOf, slerpQuats } from '../geometry';
import { compileClip, easingCorners, sampleClip, type CompiledClip } from '../motion';

export interface BakeOptions {
  /** Greatest difference of a turn, degrees. */
  toleranceDegrees?: number;
  /** Greatest way that any vertex below the part may be off, in the kit's unit. */
  toleranceLength?: number;
}

/** Straight keys of one part: local placements at strictly ascending times. */
export interface BakedPart {
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
/** Greatest difference of a morph weight. */
const WEIGHT_TOLERANCE = 5e-4;
const TURN_BETWEEN_KEYS = 85;
const MAX_DEPTH = 12;

/**
 * A clip as straight keys for every part that moves: adaptive subdivision until neither the turn nor the furthest vertex below
 * the part is further off than the tolerance. Turns get a key at least every 90°, so that the shortest path is the right one.
 */
export function bakeClip(kit: Kit, clip: Clip, blobs: Blobs, options: BakeOptions = {}): BakedPart[] {
  const { toleranceDegrees = 0.25, toleranceLength = 0.001 } = options;
  const byPart = new Map<Id, Track[]>();
  for (const track of clip.tracks) byPart.set(track.part, [...(byPart.get(track.part) ?? []), track]);
  return [...byPart].map(([id, tracks]) => {
    const reach = reachOf(kit, blobs, id);
    const angle = Math.min(toleranceDegrees, reach > 0 ? ((toleranceLength / reach) * 180) / Math.PI : toleranceDegrees);
    return bakePart(kit, { ...clip, tracks }, id, blobs, angle, toleranceLength);
  });
}

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

function bakePart(kit: Kit, clip: Clip, id: Id, blobs: Blobs, toleranceDegrees: number, toleranceLength: number): BakedPart {
  const sampler = new PartSampler(kit, clip, id, blobs);
  const times = cornerTimes(clip, blobs);
  const out: { time: number; row: number[] }[] = [{ time: times[0], row: sampler.at(times[0]) }];
  const add = (from: number, a: number[], to: number, b: number[], depth: number) => {
    if (depth < MAX_DEPTH && !isStraight(sampler, from, a, to, b, toleranceDegrees, toleranceLength)) {
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

/** Times where the motion may have a corner: keys, steps, bounces, both ends. */
function cornerTimes(clip: Clip, blobs: Blobs): number[] {
  const times = [0, clip.lengthSeconds];
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
      if (key.easing === 'hold' || track.property === 'shown') times.push(next.time - STEP_SECONDS);
      for (const corner of easingCorners(key.easing)) times.push(key.time + corner * (next.time - key.time));
    });
  }
  const sorted = times.filter((time) => time >= 0 && time <= clip.lengthSeconds).sort((a, b) => a - b);
  return sorted.filter((time, i) => i === 0 || time - sorted[i - 1] > STEP_SECONDS / 4);
}

function isStraight(sampler: PartSampler, from: number, a: number[], to: number, b: number[], degrees: number, length: number): boolean {
  if (to - from <= 2 * STEP_SECONDS) return true;
  for (const u of [0.25, 0.5, 0.75]) {
    const truth = sampler.at(from + (to - from) * u);
    for (let c = 0; c < 3; c++) if (Math.abs(a[c] + (b[c] - a[c]) * u - truth[c]) > length / 2) return false;
    for (let c = 13; c < truth.length; c++) if (Math.abs(a[c] + (b[c] - a[c]) * u - truth[c]) > WEIGHT_TOLERANCE) return false;
    for (let c = 7; c < 10; c++) if (Math.abs(a[c] + (b[c] - a[c]) * u - truth[c]) > 1e-4) return false;
    if (angleBetweenQuats(slerp(a, b, u), [truth[3], truth[4], truth[5], truth[6]]) > degrees / 2) return false;
  }
  return true;
}

/** Of two rows of a sampler. */
function slerp(a: number[], b: number[], u: number): Quat {
  return slerpQuats(a.slice(3, 7) as Quat, b.slice(3, 7) as Quat, u);
}

function toBakedPart(id: Id, rows: { time: number; row: number[] }[], clip: Clip): BakedPart {
  const baked: BakedPart = {
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
