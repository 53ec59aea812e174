import type { FlatParts, Pose } from '../geometry';
import type { MovedParts } from '../motion';

/**
 * Turns of keys become part of the spins before them: a pose is then compared and blended part by part. Allocates nothing.
 *
 * @param turned Indices of the parts that turns may have.
 */
export function settleTurns(flat: FlatParts, pose: Pose, turned: Int32Array): void {
  const { turn, spin } = pose;
  for (let k = 0; k < turned.length; k++) {
    const p = turned[k];
    const t = 3 * p;
    if (turn[t] === 0 && turn[t + 1] === 0 && turn[t + 2] === 0) continue;
    const q = 4 * p;
    for (let s = 0; s < 3; s++) {
      const axis = flat.turnAxes[t + s];
      const half = (turn[t + axis] * Math.PI) / 360;
      const sin = Math.sin(half);
      const cos = Math.cos(half);
      // The quaternion times one about an axis: the axis and the two after it, in a circle.
      const [a, b, c] = AXES[axis];
      const va = spin[q + a];
      const vb = spin[q + b];
      const vc = spin[q + c];
      const w = spin[q + 3];
      spin[q + a] = va * cos + w * sin;
      spin[q + b] = vb * cos + vc * sin;
      spin[q + c] = vc * cos - vb * sin;
      spin[q + 3] = w * cos - va * sin;
    }
    turn[t] = 0;
    turn[t + 1] = 0;
    turn[t + 2] = 0;
  }
}

const AXES = [
  [0, 1, 2],
  [1, 2, 0],
  [2, 0, 1],
] as const;

/**
 * A sum of settled poses in which clips move these parts and no others: what none moves is never looked at. Spins that turns are settled
 * into are among `spin` (see `poseSum`).
 */
export interface PoseSum {
  flat: FlatParts;
  moved: MovedParts;
}

/** Makes a sum ready for what clips move. */
export function poseSum(flat: FlatParts, moved: MovedParts): PoseSum {
  const spin = Int32Array.from(new Set([...moved.spin, ...moved.turn])).sort();
  return { flat, moved: { ...moved, spin } };
}

/** Indices of the parts whose spins a clip does not set by itself, among those that the sum has. */
export const spinsLeft = ({ moved }: PoseSum, { spin }: MovedParts): Int32Array => {
  const set = new Set(spin);
  return moved.spin.filter((p) => !set.has(p));
};

/**
 * Makes a settled pose ready for a clip: what is moved goes to rest, but offsets, which are sampled into the sum at once, and spins that
 * the clip sets anyway.
 *
 * @param left See `spinsLeft`
 */
export function restMoved({ flat, moved }: PoseSum, pose: Pose, left: Int32Array): void {
  fill(pose.size, moved.size, 1);
  const { spin } = pose;
  for (let k = 0; k < left.length; k++) {
    const q = 4 * left[k];
    spin[q] = 0;
    spin[q + 1] = 0;
    spin[q + 2] = 0;
    spin[q + 3] = 1;
  }
  if (moved.weights) pose.weights.set(flat.weights);
}

function fill(field: Float64Array, parts: Int32Array, value: number): void {
  for (let k = 0; k < parts.length; k++) {
    const o = 3 * parts[k];
    field[o] = value;
    field[o + 1] = value;
    field[o + 2] = value;
  }
}

/** A sum with nothing in it, of a pose at rest. */
export function beginSum({ moved }: PoseSum, sum: Pose): void {
  fill(sum.size, moved.size, 0);
  const { spin } = sum;
  for (let k = 0; k < moved.spin.length; k++) spin[4 * moved.spin[k] + 3] = 0;
  if (moved.weights) sum.weights.fill(0);
}

/**
 * Adds a share of a settled pose to a sum of such, but its offsets. Spins are added as the nearer of the two quaternions that say the
 * same, and come to length 1 in `endSum`.
 *
 * @param shares Where the share stands, at `at`: an array, since a number that is given at a call is kept on the heap
 */
export function addToSum({ moved }: PoseSum, sum: Pose, pose: Pose, shares: Float64Array, at: number): void {
  const share = shares[at];
  addShare(sum.size, pose.size, moved.size, shares, at);
  if (moved.weights) for (let i = 0; i < sum.weights.length; i++) sum.weights[i] += share * pose.weights[i];
  const a = sum.spin;
  const b = pose.spin;
  for (let k = 0; k < moved.spin.length; k++) {
    const q = 4 * moved.spin[k];
    const near = (a[q] * b[q] + a[q + 1] * b[q + 1] + a[q + 2] * b[q + 2] + a[q + 3] * b[q + 3] < 0 ? -1 : 1) * share;
    a[q] += near * b[q];
    a[q + 1] += near * b[q + 1];
    a[q + 2] += near * b[q + 2];
    a[q + 3] += near * b[q + 3];
  }
}

function addShare(sum: Float64Array, of: Float64Array, parts: Int32Array, shares: Float64Array, at: number): void {
  const share = shares[at];
  for (let k = 0; k < parts.length; k++) {
    const o = 3 * parts[k];
    sum[o] += share * of[o];
    sum[o + 1] += share * of[o + 1];
    sum[o + 2] += share * of[o + 2];
  }
}

/** Makes a pose of a sum whose shares add up to 1. */
export function endSum({ moved }: PoseSum, { spin }: Pose): void {
  for (let k = 0; k < moved.spin.length; k++) unit(spin, 4 * moved.spin[k]);
}

function unit(spin: Float64Array, q: number): void {
  const x = spin[q];
  const y = spin[q + 1];
  const z = spin[q + 2];
  const w = spin[q + 3];
  const length = Math.sqrt(x * x + y * y + z * z + w * w);
  const known = length > 1e-12;
  const scale = known ? 1 / length : 0;
  spin[q] = x * scale;
  spin[q + 1] = y * scale;
  spin[q + 2] = z * scale;
  spin[q + 3] = known ? w * scale : 1;
}

/** Goes from one settled pose toward another, in place. @param shares How far, for each part; one for all where there is but one */
export function goToward(flat: FlatParts, from: Pose, to: Pose, shares: Float64Array): void {
  const one = shares.length === 1;
  for (let p = 0; p < flat.ids.length; p++) {
    const share = shares[one ? 0 : p];
    if (share === 0) continue;
    for (let i = 3 * p; i < 3 * p + 3; i++) {
      from.offset[i] += share * (to.offset[i] - from.offset[i]);
      from.size[i] += share * (to.size[i] - from.size[i]);
    }
    for (let i = flat.weightsAt[p]; i < flat.weightsAt[p + 1]; i++) from.weights[i] += share * (to.weights[i] - from.weights[i]);
    const q = 4 * p;
    const a = from.spin;
    const b = to.spin;
    const near = (a[q] * b[q] + a[q + 1] * b[q + 1] + a[q + 2] * b[q + 2] + a[q + 3] * b[q + 3] < 0 ? -1 : 1) * share;
    for (let i = q; i < q + 4; i++) a[i] = (1 - share) * a[i] + near * b[i];
    unit(a, q);
  }
}

/** Puts a settled pose on top of another, in place: offsets and spins come to it, sizes multiply, morph weights add what is not rest. */
export function putOnTop(flat: FlatParts, under: Pose, over: Pose, shares: ArrayLike<number>): void {
  for (let p = 0; p < flat.ids.length; p++) {
    const share = shares[p];
    if (share === 0) continue;
    for (let i = 3 * p; i < 3 * p + 3; i++) {
      under.offset[i] += share * over.offset[i];
      under.size[i] *= 1 + share * (over.size[i] - 1);
    }
    for (let i = flat.weightsAt[p]; i < flat.weightsAt[p + 1]; i++) under.weights[i] += share * (over.weights[i] - flat.weights[i]);
    addSpin(under.spin, over.spin, 4 * p, share);
  }
}

/** Turns a spin by a share of another, in place: that one from no turn on, by the shorter way. */
function addSpin(a: Float64Array, b: Float64Array, q: number, share: number): void {
  const near = (b[q + 3] < 0 ? -1 : 1) * share;
  const x = near * b[q];
  const y = near * b[q + 1];
  const z = near * b[q + 2];
  const w = 1 - share + near * b[q + 3];
  const ax = a[q];
  const ay = a[q + 1];
  const az = a[q + 2];
  const aw = a[q + 3];
  a[q] = ax * w + aw * x + ay * z - az * y;
  a[q + 1] = ay * w + aw * y + az * x - ax * z;
  a[q + 2] = az * w + aw * z + ax * y - ay * x;
  a[q + 3] = aw * w - ax * x - ay * y - az * z;
  unit(a, q);
}
