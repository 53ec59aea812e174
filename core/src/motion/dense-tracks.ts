import type { SampleTrack, Sha } from '../document';
import type { Pose } from '../geometry';
import { blendTurns } from './blend-turns';
import { hermite } from './easing';
import type { Moment } from './moment';
import { seekMoment } from './seek';

/** Times that many tracks share, as those of an imported clip do: where a moment falls in them is looked up once. */
interface Timeline {
  blob: Sha;
  times: Float32Array;
  /** Index of the sample before the moment. */
  at: number;
  /** How far the moment is to the next one, 0 to 1, at the ends 0; and seconds between the two. */
  along: Float64Array;
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

/** Straight tracks of one property on one timeline, moment by moment: what a pose needs of them lies side by side. */
interface Pack {
  timeline: Timeline;
  tracks: DenseTrack[];
  /** Where each goes in the array of its property. */
  to: Int32Array;
  /** All tracks' numbers at the first sample, then at the next, and so on. */
  rows: Float32Array;
}

/** The dense tracks of a clip, by what they move. Sampling allocates nothing. */
export class DenseTracks {
  private readonly timelines: Timeline[] = [];
  private readonly offsets: DenseTrack[] = [];
  private readonly rotations: DenseTrack[] = [];
  private readonly sizes: DenseTrack[] = [];
  private readonly weights: DenseTrack[] = [];
  private readonly packs: { offsets: Pack[]; rotations: Pack[] } = { offsets: [], rotations: [] };
  /** A row of values, for tracks of many numbers. */
  private row = new Float64Array(4);

  /** @param part Index of the part. @param weightsAt Where its morph weights begin in a pose. */
  add(
    { property, interpolation, times: { blob }, values: { size } }: SampleTrack,
    part: number,
    weightsAt: number,
    times: Float32Array,
    values: Float32Array,
  ): void {
    let timeline = this.timelines.find((one) => one.blob === blob);
    if (!timeline) this.timelines.push((timeline = { blob, times, at: 0, along: Float64Array.of(0, 1) }));
    const curve = interpolation === 'curve';
    const track: DenseTrack = {
      timeline,
      values,
      width: size,
      stride: curve ? 3 * size : size,
      lead: curve ? size : 0,
      hold: interpolation === 'hold',
      to: 3 * part,
    };
    const straight = interpolation === 'straight';
    if (property === 'offset' && straight) gather(this.packs.offsets, track);
    else if (property === 'offset') this.offsets.push(track);
    else if (property === 'size') this.sizes.push(track);
    else if (property === 'rotation' && straight) gather(this.packs.rotations, { ...track, to: 4 * part });
    else if (property === 'rotation') this.rotations.push({ ...track, to: 4 * part });
    else this.weights.push({ ...track, to: weightsAt });
    if (size > this.row.length) this.row = new Float64Array(size);
  }

  /** Lays what was added side by side; after it nothing is added. */
  seal(): this {
    for (const pack of [...this.packs.offsets, ...this.packs.rotations]) lay(pack);
    return this;
  }

  /** Puts the parts that are moved into sets, by the field of a pose. @returns whether morph weights are moved */
  tellMoved(sets: Record<'offset' | 'size' | 'spin', Set<number>>): boolean {
    const { packs } = this;
    const add = (set: Set<number>, tracks: readonly DenseTrack[], width: number) => tracks.forEach(({ to }) => set.add(to / width));
    add(sets.offset, [...packs.offsets.flatMap(({ tracks }) => tracks), ...this.offsets], 3);
    add(sets.size, this.sizes, 3);
    add(sets.spin, [...packs.rotations.flatMap(({ tracks }) => tracks), ...this.rotations], 4);
    return this.weights.length > 0;
  }

  /** Adds every track at a moment to a pose: offsets add by their share, sizes multiply, rotations and weights are set. */
  sample(moment: Moment, pose: Pose): void {
    const time = moment[0];
    const share = moment[1];
    for (const line of this.timelines) {
      const { times } = line;
      const at = (line.at = seekMoment(times, line.at, moment));
      const inside = at + 1 < times.length && time > times[at];
      const span = inside ? times[at + 1] - times[at] : 1;
      line.along[0] = inside ? (time - times[at]) / span : 0;
      line.along[1] = span;
    }
    const { row } = this;
    const { offset, spin } = pose;
    const { offsets, rotations } = this.packs;
    for (let i = 0; i < offsets.length; i++) move(offsets[i], offset, moment);
    for (let i = 0; i < rotations.length; i++) turnAll(rotations[i], spin);
    for (const track of this.offsets) {
      interpolate(track, row);
      offset[track.to] += share * row[0];
      offset[track.to + 1] += share * row[1];
      offset[track.to + 2] += share * row[2];
    }
    for (const track of this.sizes) {
      interpolate(track, row);
      pose.size[track.to] *= row[0];
      pose.size[track.to + 1] *= row[1];
      pose.size[track.to + 2] *= row[2];
    }
    for (const track of this.rotations) turn(track, spin, row);
    for (const track of this.weights) {
      interpolate(track, row);
      for (let c = 0; c < track.width; c++) pose.weights[track.to + c] = row[c];
    }
  }
}

function gather(packs: Pack[], track: DenseTrack): void {
  const pack = packs.find((one) => one.timeline === track.timeline);
  if (pack) pack.tracks.push(track);
  else packs.push({ timeline: track.timeline, tracks: [track], to: new Int32Array(0), rows: new Float32Array(0) });
}

function lay(pack: Pack): void {
  const { tracks, timeline } = pack;
  const { width } = tracks[0];
  const n = tracks.length;
  pack.to = Int32Array.from(tracks, ({ to }) => to);
  pack.rows = new Float32Array(timeline.times.length * n * width);
  tracks.forEach(({ values }, t) => {
    for (let sample = 0; sample < timeline.times.length; sample++)
      for (let c = 0; c < width; c++) pack.rows[(sample * n + t) * width + c] = values[sample * width + c];
  });
}

function move({ timeline: { at, along }, to, rows }: Pack, offset: Float64Array, moment: Moment): void {
  const u = along[0];
  const share = moment[1];
  const n = to.length;
  let a = 3 * n * at;
  // At the last sample there is no next one, and nothing is taken of it.
  let b = u === 0 ? a : a + 3 * n;
  for (let t = 0; t < n; t++, a += 3, b += 3) {
    const o = to[t];
    offset[o] += share * (rows[a] + (rows[b] - rows[a]) * u);
    offset[o + 1] += share * (rows[a + 1] + (rows[b + 1] - rows[a + 1]) * u);
    offset[o + 2] += share * (rows[a + 2] + (rows[b + 2] - rows[a + 2]) * u);
  }
}

/** Rotations at a moment: the shortest arc between two samples. */
function turnAll({ timeline: { at, along }, to, rows }: Pack, spin: Float64Array): void {
  const n = to.length;
  let a = 4 * n * at;
  if (along[0] === 0) {
    for (let t = 0; t < n; t++, a += 4) {
      const o = to[t];
      spin[o] = rows[a];
      spin[o + 1] = rows[a + 1];
      spin[o + 2] = rows[a + 2];
      spin[o + 3] = rows[a + 3];
    }
    return;
  }
  blendTurns(rows, a, a + 4 * n, along, spin, to);
}

/** A track's numbers at its timeline's moment, straight or along a cubic. */
function interpolate({ timeline: { at, along }, values, width, stride, lead, hold }: DenseTrack, row: Float64Array): void {
  const u = along[0];
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
  for (let c = 0; c < width; c++)
    row[c] = hermite(u, values[here + c], values[here + width + c], values[there + c], values[there - width + c], along[1]);
}

/** A rotation at its timeline's moment along a cubic, of unit length, or held. */
function turn(track: DenseTrack, spin: Float64Array, row: Float64Array): void {
  const { to, hold, timeline } = track;
  interpolate(track, row);
  const scale =
    hold || timeline.along[0] === 0 ? 1 : 1 / (Math.sqrt(row[0] * row[0] + row[1] * row[1] + row[2] * row[2] + row[3] * row[3]) || 1);
  for (let c = 0; c < 4; c++) spin[to + c] = row[c] * scale;
}
