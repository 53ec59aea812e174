import type { SampleTrack, Sha } from '../document';
import type { Pose } from '../geometry';
import { hermite } from './easing';
import { seek } from './seek';

/** Times that many tracks share, as those of an imported clip do: where a moment falls in them is looked up once. */
interface Timeline {
  blob: Sha;
  times: Float32Array;
  /** Index of the sample before the moment, and how far the moment is to the next one, 0 to 1; at the ends 0. */
  at: number;
  u: number;
  /** Seconds between the two. */
  span: number;
}

interface DenseTrack {
  timeline: Timeline;
  values: Float32Array;
  /** Numbers a sample, and from one sample to the next. */
  width: number;
  stride: number;
  /** Where the value begins in a sample: behind its in-tangent in a curve. */
  lead: number;
  hold: boolean;
  /** Where it goes in the array of its property. */
  to: number;
}

/** Further apart than this, sines are worked out. */
const FAR = 0.7;

/**
 * sin(t·θ) / sin θ without a sine, from cos θ − 1: the first terms of its series in it (Eberly 2011, "A fast and accurate algorithm for computing
 * SLERP"). For cos θ from 0.7 on it is right to 10⁻⁷.
 */
function arcShare(t: number, c: number): number {
  const s = t * t;
  return (
    t *
    (1 +
      (s / 3 - 1 / 3) *
        c *
        (1 + (s / 10 - 2 / 5) * c * (1 + (s / 21 - 3 / 7) * c * (1 + (s / 36 - 4 / 9) * c * (1 + (s / 55 - 5 / 11) * c * (1 + (s / 78 - 6 / 13) * c * (1 + (s / 105 - 7 / 15) * c)))))))
  );
}

/** Between turns that are nearer than this, as the cosine of half their angle, the straight way is within 10⁻⁵ radians of the arc. */
const NEAR = 0.999;

/** The dense tracks of a clip, by what they move. Sampling allocates nothing. */
export class DenseTracks {
  private readonly timelines: Timeline[] = [];
  private readonly offsets: DenseTrack[] = [];
  private readonly rotations: DenseTrack[] = [];
  private readonly sizes: DenseTrack[] = [];
  private readonly weights: DenseTrack[] = [];
  /** A row of values, for tracks of many numbers. */
  private row = new Float64Array(4);

  /** @param part Index of the part. @param weightsAt Where its morph weights begin in a pose. */
  add({ property, interpolation, times: { blob }, values: { size } }: SampleTrack, part: number, weightsAt: number, times: Float32Array, values: Float32Array): void {
    let timeline = this.timelines.find((one) => one.blob === blob);
    if (!timeline) this.timelines.push((timeline = { blob, times, at: 0, u: 0, span: 1 }));
    const curve = interpolation === 'curve';
    const track: DenseTrack = { timeline, values, width: size, stride: curve ? 3 * size : size, lead: curve ? size : 0, hold: interpolation === 'hold', to: 3 * part };
    if (property === 'offset') this.offsets.push(track);
    else if (property === 'size') this.sizes.push(track);
    else if (property === 'rotation') this.rotations.push({ ...track, to: 4 * part });
    else this.weights.push({ ...track, to: weightsAt });
    if (size > this.row.length) this.row = new Float64Array(size);
  }

  /** Adds every track at a time to a pose: offsets add, sizes multiply, rotations and weights are set. */
  sample(time: number, pose: Pose): void {
    for (const line of this.timelines) {
      const { times } = line;
      const at = (line.at = seek(times, line.at, time));
      const inside = at + 1 < times.length && time > times[at];
      line.span = inside ? times[at + 1] - times[at] : 1;
      line.u = inside ? (time - times[at]) / line.span : 0;
    }
    const { row } = this;
    const { offset, spin } = pose;
    for (let n = 0; n < this.offsets.length; n++) {
      const track = this.offsets[n];
      const { at, u } = track.timeline;
      const { to, values } = track;
      if (track.lead > 0 || track.hold || u === 0) {
        interpolate(track, row);
        offset[to] += row[0];
        offset[to + 1] += row[1];
        offset[to + 2] += row[2];
        continue;
      }
      const a = 3 * at;
      offset[to] += values[a] + (values[a + 3] - values[a]) * u;
      offset[to + 1] += values[a + 1] + (values[a + 4] - values[a + 1]) * u;
      offset[to + 2] += values[a + 2] + (values[a + 5] - values[a + 2]) * u;
    }
    for (const track of this.sizes) {
      interpolate(track, row);
      pose.size[track.to] *= row[0];
      pose.size[track.to + 1] *= row[1];
      pose.size[track.to + 2] *= row[2];
    }
    for (let n = 0; n < this.rotations.length; n++) turn(this.rotations[n], spin, row);
    for (const track of this.weights) {
      interpolate(track, row);
      for (let c = 0; c < track.width; c++) pose.weights[track.to + c] = row[c];
    }
  }
}

/** A track's numbers at its timeline's moment, straight or along a cubic. */
function interpolate({ timeline: { at, u, span }, values, width, stride, lead, hold }: DenseTrack, row: Float64Array): void {
  const here = at * stride + lead;
  if (hold || u === 0) {
    for (let c = 0; c < width; c++) row[c] = values[here + c];
    return;
  }
  const there = here + stride;
  if (lead === 0) {
    for (let c = 0; c < width; c++) row[c] = values[here + c] + (values[there + c] - values[here + c]) * u;
    return;
  }
  for (let c = 0; c < width; c++) row[c] = hermite(u, values[here + c], values[here + width + c], values[there + c], values[there - width + c], span);
}

/** A rotation at its timeline's moment: the shortest arc between two samples (Shoemake 1985), or a cubic, of unit length. */
function turn(track: DenseTrack, spin: Float64Array, row: Float64Array): void {
  const { timeline, values, hold, to } = track;
  const { u } = timeline;
  const a = timeline.at * track.stride + track.lead;
  if (hold || u === 0) {
    spin[to] = values[a];
    spin[to + 1] = values[a + 1];
    spin[to + 2] = values[a + 2];
    spin[to + 3] = values[a + 3];
    return;
  }
  let x: number;
  let y: number;
  let z: number;
  let w: number;
  if (track.lead > 0) {
    interpolate(track, row);
    x = row[0];
    y = row[1];
    z = row[2];
    w = row[3];
  } else {
    const b = a + track.stride;
    const dot = values[a] * values[b] + values[a + 1] * values[b + 1] + values[a + 2] * values[b + 2] + values[a + 3] * values[b + 3];
    const near = dot < 0 ? -dot : dot;
    let from = 1 - u;
    let on = u;
    if (near < FAR) {
      const angle = Math.acos(near);
      const sine = Math.sqrt(1 - near * near);
      from = Math.sin(from * angle) / sine;
      on = Math.sin(on * angle) / sine;
    } else if (near < NEAR) {
      from = arcShare(from, near - 1);
      on = arcShare(on, near - 1);
    }
    if (dot < 0) on = -on;
    x = from * values[a] + on * values[b];
    y = from * values[a + 1] + on * values[b + 1];
    z = from * values[a + 2] + on * values[b + 2];
    w = from * values[a + 3] + on * values[b + 3];
  }
  const scale = 1 / (Math.sqrt(x * x + y * y + z * z + w * w) || 1);
  spin[to] = x * scale;
  spin[to + 1] = y * scale;
  spin[to + 2] = z * scale;
  spin[to + 3] = w * scale;
}
