import { readArray, type Blobs, type Clip, type FormulaTrack, type Key, type KeyProperty, type KeyTrack, type SampleTrack } from '../document';
import type { FlatParts, Pose } from '../geometry';
import { EASING_CODES, hermite, monotoneTangents, SHAPE_OF_CODE } from './easing';
import { formulaOf, formulaValue, restValue, type Formula } from './formula';

interface CompiledKeys {
  part: number;
  property: KeyProperty;
  /** Where the value goes in the array of its property. */
  at: number;
  times: Float64Array;
  values: Float64Array;
  slopesIn: Float64Array;
  slopesOut: Float64Array;
  easings: Uint8Array;
  cursor: number;
}

interface CompiledSamples {
  part: number;
  property: SampleTrack['property'];
  interpolation: SampleTrack['interpolation'];
  times: Float32Array;
  values: Float32Array;
  /** Numbers a sample: 3, 4, or as many as morph targets. */
  width: number;
  /** Where they begin in the pose's weights. */
  weightsAt: number;
  cursor: number;
}

interface CompiledFormula {
  property: KeyProperty;
  at: number;
  formula: Formula;
  gain: number;
  rest: number;
}

/** A clip made ready for sampling against a FlatParts. Holds cursors, so each player has its own. */
export interface CompiledClip {
  keys: CompiledKeys[];
  samples: CompiledSamples[];
  formulas: CompiledFormula[];
  lengthSeconds: number;
}

/** Tracks whose part is not among `flat`, or whose morph targets are others by now, are left out. */
export function compileClip(clip: Clip, flat: FlatParts, blobs: Blobs): CompiledClip {
  const compiled: CompiledClip = { keys: [], samples: [], formulas: [], lengthSeconds: clip.lengthSeconds };
  for (const track of clip.tracks) {
    const part = flat.indexOf.get(track.part);
    if (part === undefined) continue;
    if (track.kind !== 'samples') {
      const at = placeIn(flat, part, track);
      if (at === null) continue;
      if (track.kind === 'formula') compiled.formulas.push({ property: track.property, at, formula: formulaOf(track, clip.constants), gain: track.gain, rest: restValue(track.property) });
      else if (track.keys.length > 0) compiled.keys.push(compileKeys(track, part, at));
    } else if (track.times.count > 0) {
      const targets = flat.weightsAt[part + 1] - flat.weightsAt[part];
      if (track.property === 'weights' && track.values.size !== targets) continue;
      compiled.samples.push({
        part,
        property: track.property,
        interpolation: track.interpolation,
        times: readArray<Float32Array>(blobs, track.times),
        values: readArray<Float32Array>(blobs, track.values),
        width: track.values.size,
        weightsAt: flat.weightsAt[part],
        cursor: 0,
      });
    }
  }
  return compiled;
}

/** Where a track's value goes in the array of its property; null for a morph target that is not there. */
function placeIn(flat: FlatParts, part: number, track: KeyTrack | FormulaTrack): number | null {
  if (track.property !== 'weight') return 3 * part + track.axis;
  const at = flat.weightsAt[part] + track.axis;
  return at < flat.weightsAt[part + 1] ? at : null;
}

/** Tangents of a track's keys, value a second, into each and out of it: as said, or monotone. */
export function keySlopes(keys: readonly Key[]): { slopesIn: Float64Array; slopesOut: Float64Array } {
  const own = monotoneTangents(keys);
  return { slopesIn: Float64Array.from(keys, (key, i) => key.slopeIn ?? own[i]), slopesOut: Float64Array.from(keys, (key, i) => key.slopeOut ?? own[i]) };
}

function compileKeys(track: KeyTrack, part: number, at: number): CompiledKeys {
  return {
    part,
    property: track.property,
    at,
    times: Float64Array.from(track.keys, (key) => key.time),
    values: Float64Array.from(track.keys, (key) => key.value),
    ...keySlopes(track.keys),
    easings: Uint8Array.from(track.keys, (key) => EASING_CODES.get(key.easing)!),
    cursor: 0,
  };
}

/** Value of a key track at a time, in the track's unit. */
export function sampleKeys(track: Pick<KeyTrack, 'keys'>, time: number): number | null {
  return track.keys.length === 0 ? null : valueAt(compileKeys(track as KeyTrack, 0, 0), time);
}

/** Index of the last time ≤ `time`, from a cached place or by binary search; 0 before the first. */
function seek(times: ArrayLike<number>, cursor: number, time: number): number {
  const last = times.length - 1;
  if (times[cursor] <= time) {
    if (cursor === last || time < times[cursor + 1]) return cursor;
    if (cursor + 1 === last || time < times[cursor + 2]) return cursor + 1;
  }
  let low = 0;
  let high = last;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (times[middle] <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}

function valueAt(track: CompiledKeys, time: number): number {
  const { times, values } = track;
  const i = (track.cursor = seek(times, track.cursor, time));
  if (time <= times[i] || i === times.length - 1) return values[i];
  const span = times[i + 1] - times[i];
  const u = (time - times[i]) / span;
  switch (track.easings[i]) {
    case 0:
      return values[i];
    case 1:
      return values[i] + (values[i + 1] - values[i]) * u;
    case 2:
      return hermite(u, values[i], track.slopesOut[i], values[i + 1], track.slopesIn[i + 1], span);
    default:
      return values[i] + (values[i + 1] - values[i]) * SHAPE_OF_CODE[track.easings[i]](u);
  }
}

/**
 * Adds a clip at a time to a pose. Offsets and turns add, sizes multiply, dense rotations come before turns.
 *
 * @param time Seconds within the clip (see `clipTime`).
 */
export function sampleClip(compiled: CompiledClip, time: number, pose: Pose): void {
  for (const track of compiled.keys) addValue(pose, track.property, track.at, valueAt(track, time));
  for (const track of compiled.formulas) addValue(pose, track.property, track.at, formulaValue(track.formula, track.gain, track.rest, time, compiled.lengthSeconds));
  for (const track of compiled.samples) sampleDense(track, time, pose);
}

function addValue(pose: Pose, property: KeyProperty, at: number, value: number): void {
  if (property === 'offset') pose.offset[at] += value;
  else if (property === 'turn') pose.turn[at] += value;
  else if (property === 'size') pose.size[at] *= value;
  else if (property === 'weight') pose.weights[at] = value;
  else if (value < 0.5) {
    // Not shown is of no size: so it is in every platform, and so is what hangs below.
    pose.size[at] = 0;
    pose.size[at + 1] = 0;
    pose.size[at + 2] = 0;
  }
}

let row = new Float64Array(64);

function sampleDense(track: CompiledSamples, time: number, pose: Pose): void {
  const { times, values, width } = track;
  if (width > row.length) row = new Float64Array(width);
  const turns = track.property === 'rotation';
  const curve = track.interpolation === 'curve';
  const stride = curve ? 3 * width : width;
  const lead = curve ? width : 0;
  const i = (track.cursor = seek(times, track.cursor, time));
  const here = i * stride + lead;
  if (time <= times[i] || i === times.length - 1 || track.interpolation === 'hold') {
    for (let c = 0; c < width; c++) row[c] = values[here + c];
  } else {
    const span = times[i + 1] - times[i];
    const u = (time - times[i]) / span;
    const there = here + stride;
    if (curve) {
      for (let c = 0; c < width; c++) row[c] = hermite(u, values[here + c], values[here + width + c], values[there + c], values[there - width + c], span);
      if (turns) normalizeRow();
    } else if (turns) slerpRow(values, here, there, u);
    else for (let c = 0; c < width; c++) row[c] = values[here + c] + (values[there + c] - values[here + c]) * u;
  }
  const p = track.part;
  if (track.property === 'offset') for (let c = 0; c < 3; c++) pose.offset[3 * p + c] += row[c];
  else if (track.property === 'size') for (let c = 0; c < 3; c++) pose.size[3 * p + c] *= row[c];
  else if (turns) for (let c = 0; c < 4; c++) pose.spin[4 * p + c] = row[c];
  else for (let c = 0; c < width; c++) pose.weights[track.weightsAt + c] = row[c];
}

function normalizeRow(): void {
  const length = Math.hypot(row[0], row[1], row[2], row[3]) || 1;
  for (let c = 0; c < 4; c++) row[c] /= length;
}

/** Shortest-path spherical interpolation (Shoemake 1985) into `row`. */
function slerpRow(values: Float32Array, a: number, b: number, u: number): void {
  let dot = values[a] * values[b] + values[a + 1] * values[b + 1] + values[a + 2] * values[b + 2] + values[a + 3] * values[b + 3];
  const flip = dot < 0 ? -1 : 1;
  dot *= flip;
  let from = 1 - u;
  let to = u;
  if (dot < 0.999999) {
    const angle = Math.acos(dot);
    const sine = Math.sin(angle);
    from = Math.sin((1 - u) * angle) / sine;
    to = Math.sin(u * angle) / sine;
  }
  for (let c = 0; c < 4; c++) row[c] = from * values[a + c] + to * flip * values[b + c];
  normalizeRow();
}
