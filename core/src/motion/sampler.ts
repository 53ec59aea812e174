import { readArray, type Blobs, type Clip, type FormulaTrack, type Key, type KeyProperty, type KeyTrack } from '../document';
import type { Formula } from '../formula';
import type { FlatParts, Pose } from '../geometry';
import { DenseTracks } from './dense-tracks';
import { EASING_CODES, hermite, monotoneTangents, SHAPE_OF_CODE } from './easing';
import type { Moment } from './moment';
import { seekMoment } from './seek';
import { formulaOf, formulaValue, restValue } from './formula-track';

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
  dense: DenseTracks;
  formulas: CompiledFormula[];
  lengthSeconds: number;
  /** What `sampleMoment` samples. */
  moment: Moment;
}

/** What clips move, by the fields of a pose: indices of parts, each once, in rising order. All else they leave at rest. */
export interface MovedParts {
  offset: Int32Array;
  turn: Int32Array;
  size: Int32Array;
  spin: Int32Array;
  /** Whether any morph weight is moved. */
  weights: boolean;
}

/** What any of these clips moves. */
export function movedParts(clips: readonly CompiledClip[]): MovedParts {
  const sets = { offset: new Set<number>(), turn: new Set<number>(), size: new Set<number>(), spin: new Set<number>() };
  let weights = false;
  for (const { keys, formulas, dense } of clips) {
    for (const { property, at } of [...keys, ...formulas]) {
      if (property === 'weight') weights = true;
      else sets[property === 'shown' ? 'size' : property].add(Math.floor(at / 3));
    }
    weights = dense.tellMoved(sets) || weights;
  }
  const sorted = (set: Set<number>) => Int32Array.from(set).sort();
  return { offset: sorted(sets.offset), turn: sorted(sets.turn), size: sorted(sets.size), spin: sorted(sets.spin), weights };
}

/** Tracks whose part is not among `flat`, or whose morph targets are others by now, are left out. */
export function compileClip(clip: Clip, flat: FlatParts, blobs: Blobs): CompiledClip {
  const dense = new DenseTracks();
  const compiled: CompiledClip = { keys: [], dense, formulas: [], lengthSeconds: clip.lengthSeconds, moment: new Float64Array(2) };
  for (const track of clip.tracks) {
    const part = flat.indexOf.get(track.part);
    if (part === undefined) continue;
    if (track.kind !== 'samples') {
      const at = placeIn(flat, part, track);
      if (at === null) continue;
      if (track.kind === 'formula')
        compiled.formulas.push({
          property: track.property,
          at,
          formula: formulaOf(track, clip.constants),
          gain: track.gain,
          rest: restValue(track.property),
        });
      else if (track.keys.length > 0) compiled.keys.push(compileKeys(track, part, at));
    } else if (track.times.count > 0) {
      const targets = flat.weightsAt[part + 1] - flat.weightsAt[part];
      if (track.property === 'weights' && track.values.size !== targets) continue;
      dense.add(
        track,
        part,
        flat.weightsAt[part],
        readArray<Float32Array>(blobs, track.times),
        readArray<Float32Array>(blobs, track.values),
      );
    }
  }
  dense.seal();
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
  return {
    slopesIn: Float64Array.from(keys, (key, i) => key.slopeIn ?? own[i]),
    slopesOut: Float64Array.from(keys, (key, i) => key.slopeOut ?? own[i]),
  };
}

function compileKeys(track: Pick<KeyTrack, 'keys' | 'property'>, part: number, at: number): CompiledKeys {
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
  if (track.keys.length === 0) return null;
  ONCE[0] = time;
  findValue(compiledOnce(track.keys), ONCE);
  return VALUE[0];
}

/**
 * Keys that are compiled already. Those of a document are frozen and stay as they are; a draft's may change, and are compiled each time.
 */
const compiledKeys = new WeakMap<readonly Key[], CompiledKeys>();

function compiledOnce(keys: Key[]): CompiledKeys {
  let made = compiledKeys.get(keys);
  if (!made) {
    made = compileKeys({ keys, property: 'offset' }, 0, 0);
    if (Object.isFrozen(keys)) compiledKeys.set(keys, made);
  }
  return made;
}

const ONCE = new Float64Array(2);
/** Where `findValue` leaves what it has found: a number that it gave back would be kept on the heap. */
const VALUE = new Float64Array(1);

function findValue(track: CompiledKeys, moment: Moment): void {
  const { times, values } = track;
  const time = moment[0];
  const i = (track.cursor = seekMoment(times, track.cursor, moment));
  VALUE[0] = values[i];
  if (time <= times[i] || i === times.length - 1) return;
  const span = times[i + 1] - times[i];
  const u = (time - times[i]) / span;
  switch (track.easings[i]) {
    case 0:
      return;
    case 1:
      VALUE[0] += (values[i + 1] - values[i]) * u;
      return;
    case 2:
      VALUE[0] = hermite(u, values[i], track.slopesOut[i], values[i + 1], track.slopesIn[i + 1], span);
      return;
    default:
      VALUE[0] += (values[i + 1] - values[i]) * SHAPE_OF_CODE[track.easings[i]](u);
  }
}

/**
 * Adds a clip at a time to a pose. Offsets and turns add, sizes multiply, dense rotations come before turns.
 *
 * @param time Seconds within the clip (see `clipTime`).
 * @param share How much of its offsets is added, 0 to 1; nothing else goes by it.
 */
export function sampleClip(compiled: CompiledClip, time: number, pose: Pose, share = 1): void {
  compiled.moment[0] = time;
  compiled.moment[1] = share;
  sampleMoment(compiled, pose);
}

/** Adds a clip at its `moment` to a pose, as `sampleClip` does. Allocates nothing but what its formulas do. */
export function sampleMoment({ keys, dense, formulas, lengthSeconds, moment }: CompiledClip, pose: Pose): void {
  for (const track of keys) {
    findValue(track, moment);
    addValue(pose, track.property, track.at, moment);
  }
  for (const track of formulas) {
    VALUE[0] = formulaValue(track.formula, track.gain, track.rest, moment[0], lengthSeconds);
    addValue(pose, track.property, track.at, moment);
  }
  dense.sample(moment, pose);
}

/** Adds the `VALUE`. */
function addValue(pose: Pose, property: KeyProperty, at: number, moment: Moment): void {
  const value = VALUE[0];
  if (property === 'offset') pose.offset[at] += moment[1] * value;
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
