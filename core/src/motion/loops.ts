import type { Blobs, Clip, Id, Kit } from '../document';
import { flattenParts, Poser } from '../geometry';
import { compileClip, sampleClip } from './sampler';
import { placementOf } from './seam';

/** Poses of a clip at even times: places and speeds of its moving parts, with the placement of the root taken off. */
export interface PoseRows {
  /** Frames, and numbers a frame: 3 for each part's place, 3 for its speed. */
  frames: number;
  width: number;
  rows: Float32Array;
  times: Float64Array;
  parts: Id[];
}

/** A speed of one metre a second counts as so many metres. */
const SPEED_WEIGHT = 0.1;

/**
 * Places and speeds of every part at every frame, relative to where the root stands on the ground and which way it faces, weighted by how
 * much of the kit hangs from each (Kovar, Gleicher & Pighin 2002, "Motion graphs").
 *
 * @param from @param to Seconds. @param rate Frames a second. @param root Whose way over the ground is taken off; null takes nothing off.
 */
export function poseRows(
  kit: Kit,
  clip: Clip,
  blobs: Blobs,
  { from, to, rate, parts, root }: { from: number; to: number; rate: number; parts: readonly Id[]; root: Id | null },
): PoseRows {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  const frames = Math.max(2, Math.round((to - from) * rate) + 1);
  const width = 6 * parts.length;
  const rows = new Float32Array(frames * width);
  const times = Float64Array.from({ length: frames }, (_, i) => from + ((to - from) * i) / (frames - 1));
  const at = parts.map((id) => 16 * poser.flat.indexOf.get(id)!);
  const rootAt = root === null ? -1 : 16 * poser.flat.indexOf.get(root)!;
  for (let f = 0; f < frames; f++) {
    poser.reset();
    sampleClip(compiled, times[f], poser.pose);
    poser.update();
    const { world } = poser;
    const [cos, sin, x0, z0] = rootAt >= 0 ? placementOf(poser, rootAt) : [1, 0, 0, 0];
    at.forEach((m, p) => {
      const [x, z] = [world[m + 12] - x0, world[m + 14] - z0];
      rows[f * width + 6 * p] = cos * x - sin * z;
      rows[f * width + 6 * p + 1] = world[m + 13];
      rows[f * width + 6 * p + 2] = sin * x + cos * z;
    });
  }
  for (let f = 0; f < frames; f++) {
    const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    const run = times[b] - times[a];
    for (let p = 0; p < parts.length; p++)
      for (let c = 0; c < 3; c++)
        rows[f * width + 6 * p + 3 + c] = (SPEED_WEIGHT * (rows[b * width + 6 * p + c] - rows[a * width + 6 * p + c])) / run;
  }
  return { frames, width, rows, times, parts: [...parts] };
}

/** Frames that are compared with as many others at once. */
const BLOCK = 4;

/**
 * Mean squared distance between the poses of every two frames, as a full matrix. It is symmetric, and |a−b|² = |a|² + |b|² − 2a·b, so half
 * of it is worked out, as products of blocks of four by four frames whose numbers stay at hand.
 *
 * @param told Hears the share that is done; what it gives ends the work where it is false.
 */
export function poseDistances({ frames, width, rows }: PoseRows, told?: (share: number) => boolean): Float32Array | null {
  const padded = Math.ceil(frames / BLOCK) * BLOCK;
  // Numbers of four frames beside one another.
  const packed = new Float32Array(padded * width);
  for (let f = 0; f < frames; f++) for (let k = 0; k < width; k++) packed[(f >> 2) * 4 * width + 4 * k + (f & 3)] = rows[f * width + k];
  const square = new Float64Array(padded);
  for (let f = 0; f < frames; f++) {
    let sum = 0;
    for (let k = 0; k < width; k++) sum += rows[f * width + k] ** 2;
    square[f] = sum;
  }
  const out = new Float32Array(frames * frames);
  const count = width / 6;
  const product = new Float64Array(16);
  for (let i = 0; i < padded; i += BLOCK) {
    for (let j = i; j < padded; j += BLOCK) {
      multiplyBlock(packed, i * width, j * width, width, product);
      for (let a = 0; a < BLOCK && i + a < frames; a++) {
        for (let b = 0; b < BLOCK && j + b < frames; b++) {
          const value = Math.max(0, square[i + a] + square[j + b] - 2 * product[4 * a + b]) / count;
          out[(i + a) * frames + j + b] = value;
          out[(j + b) * frames + i + a] = value;
        }
      }
    }
    if (told && (i & 63) === 0 && !told(1 - (1 - i / padded) ** 2)) return null;
  }
  for (let f = 0; f < frames; f++) out[f * frames + f] = 0;
  return out;
}

/** Products of every number of four frames with those of four others: sixteen sums in registers. */
function multiplyBlock(packed: Float32Array, i: number, j: number, width: number, out: Float64Array): void {
  let [s00, s01, s02, s03, s10, s11, s12, s13] = [0, 0, 0, 0, 0, 0, 0, 0];
  let [s20, s21, s22, s23, s30, s31, s32, s33] = [0, 0, 0, 0, 0, 0, 0, 0];
  const end = 4 * width;
  for (let k = 0; k < end; k += 4) {
    const a0 = packed[i + k];
    const a1 = packed[i + k + 1];
    const a2 = packed[i + k + 2];
    const a3 = packed[i + k + 3];
    const b0 = packed[j + k];
    const b1 = packed[j + k + 1];
    const b2 = packed[j + k + 2];
    const b3 = packed[j + k + 3];
    s00 += a0 * b0;
    s01 += a0 * b1;
    s02 += a0 * b2;
    s03 += a0 * b3;
    s10 += a1 * b0;
    s11 += a1 * b1;
    s12 += a1 * b2;
    s13 += a1 * b3;
    s20 += a2 * b0;
    s21 += a2 * b1;
    s22 += a2 * b2;
    s23 += a2 * b3;
    s30 += a3 * b0;
    s31 += a3 * b1;
    s32 += a3 * b2;
    s33 += a3 * b3;
  }
  out[0] = s00;
  out[1] = s01;
  out[2] = s02;
  out[3] = s03;
  out[4] = s10;
  out[5] = s11;
  out[6] = s12;
  out[7] = s13;
  out[8] = s20;
  out[9] = s21;
  out[10] = s22;
  out[11] = s23;
  out[12] = s30;
  out[13] = s31;
  out[14] = s32;
  out[15] = s33;
}

export interface LoopPair {
  from: number;
  to: number;
  /** Mean squared distance of the two poses, weighted. */
  distance: number;
}

/**
 * Pairs of frames between which a clip would loop: local minima of the distance among pairs that lie far enough apart, the best first; of
 * those that nearly are one another, the best.
 */
export function findLoops(
  rows: PoseRows,
  distances: Float32Array,
  { leastSeconds = 0.5, most = 20 }: { leastSeconds?: number; most?: number } = {},
): LoopPair[] {
  const { frames, times } = rows;
  const least = Math.max(2, Math.ceil((leastSeconds * (frames - 1)) / (times[frames - 1] - times[0]) - 1e-9));
  const found: LoopPair[] = [];
  const at = (i: number, j: number) => (i < 0 || j >= frames || j - i < least ? Infinity : distances[i * frames + j]);
  for (let i = 0; i < frames; i++) {
    for (let j = i + least; j < frames; j++) {
      const own = distances[i * frames + j];
      let lowest = true;
      for (let di = -1; lowest && di <= 1; di++)
        for (let dj = -1; dj <= 1; dj++) if ((di !== 0 || dj !== 0) && at(i + di, j + dj) < own) lowest = false;
      if (lowest) found.push({ from: i, to: j, distance: own });
    }
  }
  found.sort((a, b) => a.distance - b.distance || b.to - b.from - (a.to - a.from));
  const kept: LoopPair[] = [];
  const near = Math.max(2, Math.round(least / 4));
  for (const pair of found) {
    if (kept.length >= most) break;
    if (kept.some((one) => Math.abs(one.from - pair.from) < near && Math.abs(one.to - pair.to) < near)) continue;
    kept.push(pair);
  }
  return kept;
}
