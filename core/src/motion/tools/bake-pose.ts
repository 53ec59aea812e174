import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  idsSchema,
  newId,
  partOf,
  putArray,
  readArray,
  type Blobs,
  type Clip,
  type Id,
  type Kit,
  type Quat,
  type SampleTrack,
  type Vec3,
} from '../../document';
import { conjugateQuat, flattenParts, multiplyQuats, newPose, quatFromTurn, type FlatParts, type Pose } from '../../geometry';
import { clipOf } from '../clip-operations';
import { restValue } from '../formula-track';
import { compileClip, sampleClip } from '../sampler';
import { ToolError, trackFor } from './chosen';

/** Less than this is nothing, metres, degrees or a factor. */
const NOTHING = 1e-9;

interface Posed {
  offset: Vec3;
  size: Vec3;
  turn: Vec3;
  spin: Quat;
}

/**
 * Makes the pose that parts have in a clip at a time their rest. Every clip of the kit is compensated, so that nothing is anywhere else at
 * any time than it was: offsets and sizes by what became rest, turns about one axis likewise; before turns about
 * several comes a rotation that takes rest off.
 *
 * @throws {ToolError} for parts of size 0 then, and for parts that variables move
 */
export const bakePose = defineOperation<{ clip: Id; parts: Id[]; time: number }>({
  id: 'motion.bake-pose',
  title: (kit, { parts, time }) =>
    `Make the pose of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} at ${time.toFixed(2)} s its rest; ${Object.keys(kit.clips).length} clips go on as they were`,
  args: Joi.object({ clip: idSchema.required(), parts: idsSchema.required(), time: Joi.number().min(0).required() }),
  change(kit, { clip: id, parts, time }, blobs) {
    const flat = flattenParts(kit);
    const pose = newPose(flat);
    sampleClip(compileClip(clipOf(kit, id), flat, blobs), time, pose);
    for (const part of parts) {
      const posed = posedOf(flat, pose, part);
      refuse(kit, part, posed);
      // What a clip did is worked out before rest is another.
      for (const clip of Object.values(kit.clips)) compensate(kit, clip, part, posed, blobs);
    }
    for (const part of parts) {
      const one = partOf(kit, part);
      const posed = posedOf(flat, pose, part);
      one.translation = one.translation.map((value, axis) => value + posed.offset[axis]) as Vec3;
      one.scale = one.scale.map((value, axis) => value * posed.size[axis]) as Vec3;
      one.rotation = multiplyQuats(one.rotation, deltaOf(posed, one.turnOrder));
    }
  },
});

function posedOf(flat: FlatParts, pose: Pose, part: Id): Posed {
  const p = flat.indexOf.get(part)!;
  const three = (all: Float64Array): Vec3 => [all[3 * p], all[3 * p + 1], all[3 * p + 2]];
  return {
    offset: three(pose.offset),
    size: three(pose.size),
    turn: three(pose.turn),
    spin: [pose.spin[4 * p], pose.spin[4 * p + 1], pose.spin[4 * p + 2], pose.spin[4 * p + 3]],
  };
}

const deltaOf = ({ spin, turn }: Posed, order: Parameters<typeof quatFromTurn>[1]): Quat => multiplyQuats(spin, quatFromTurn(turn, order));
const isTurned = ({ spin, turn }: Posed) => turn.some((value) => Math.abs(value) > NOTHING) || Math.abs(spin[3]) < 1 - 1e-12;

function refuse(kit: Kit, id: Id, { size }: Posed): void {
  const { name } = partOf(kit, id);
  if (size.some((value) => Math.abs(value) < 1e-6))
    throw new ToolError(`“${name}” is of no size then, which no rest can be. Choose another time.`, id);
  if (Object.values(kit.bindings).some((binding) => binding.part === id)) {
    throw new ToolError(
      `“${name}” is moved by a variable, whose table counts from rest. Take its binding off first, or leave the part out.`,
      id,
    );
  }
}

function compensate(kit: Kit, clip: Clip, part: Id, posed: Posed, blobs: Blobs): void {
  for (const axis of [0, 1, 2]) {
    if (Math.abs(posed.offset[axis]) > NOTHING) addTo(clip, part, 'offset', axis, -posed.offset[axis], blobs);
    if (Math.abs(posed.size[axis] - 1) > NOTHING) addTo(clip, part, 'size', axis, 1 / posed.size[axis], blobs);
  }
  if (!isTurned(posed)) return;
  const axes = [0, 1, 2].filter((axis) => Math.abs(posed.turn[axis]) > NOTHING);
  const turns = clip.tracks.filter((track) => track.part === part && (track.property === 'turn' || track.property === 'rotation'));
  const oneAxis =
    axes.length === 1 && Math.abs(posed.spin[3]) > 1 - 1e-12 && turns.every((track) => track.property === 'turn' && track.axis === axes[0]);
  if (oneAxis) addTo(clip, part, 'turn', axes[0], -posed.turn[axes[0]], blobs);
  else turnBack(clip, part, conjugateQuat(deltaOf(posed, partOf(kit, part).turnOrder)), blobs);
}

/** Adds a number to a property of a part at all times, or multiplies a size by it. */
function addTo(clip: Clip, part: Id, property: 'offset' | 'size' | 'turn', axis: number, by: number, blobs: Blobs): void {
  const change = (value: number) => (property === 'size' ? value * by : value + by);
  const dense = clip.tracks.find(
    (track): track is SampleTrack => track.kind === 'samples' && track.part === part && track.property === property,
  );
  if (dense) {
    const values = readArray<Float32Array>(blobs, dense.values).slice();
    const curve = dense.interpolation === 'curve';
    for (let row = 0, i = axis; i < values.length; row++, i += 3) {
      const slope = curve && row % 3 !== 1;
      if (!slope) values[i] = change(values[i]);
      else if (property === 'size') values[i] *= by;
    }
    dense.values = putArray(blobs, values, 3);
    return;
  }
  const formula = clip.tracks.find(
    (track) => track.kind === 'formula' && track.part === part && track.property === property && track.axis === axis,
  );
  if (formula?.kind === 'formula') {
    if (property === 'size') formula.gain *= by;
    else formula.source = `(${formula.source}) + ${Number((by / formula.gain).toPrecision(15))}`;
    return;
  }
  const track = trackFor(clip, part, property, axis, newId);
  if (track.keys.length === 0) track.keys.push({ time: 0, value: change(restValue(property)), easing: 'hold' });
  else
    track.keys = track.keys.map((key) => {
      const out = { ...key, value: change(key.value) };
      if (property === 'size' && key.slopeIn !== undefined) out.slopeIn = key.slopeIn * by;
      if (property === 'size' && key.slopeOut !== undefined) out.slopeOut = key.slopeOut * by;
      return out;
    });
}

/**
 * Takes what became rest off in front of a part's turns: rest · spin · turn = (rest · Δ) · (Δ⁻¹ · spin) · turn. Rows of a dense rotation
 * are multiplied from the left, which leaves holds, shortest arcs and cubics what they are; where there is none, one that stands still is
 * set. So turns about the own axes stay as they are, whatever their easing.
 */
function turnBack(clip: Clip, part: Id, back: Quat, blobs: Blobs): void {
  const dense = clip.tracks.filter(
    (track): track is SampleTrack => track.kind === 'samples' && track.part === part && track.property === 'rotation',
  );
  for (const track of dense) {
    const values = readArray<Float32Array>(blobs, track.values).slice();
    for (let i = 0; i < values.length; i += 4) values.set(multiplyQuats(back, [...values.subarray(i, i + 4)] as Quat), i);
    track.values = putArray(blobs, values, 4);
  }
  if (dense.length > 0) return;
  clip.tracks.push({
    kind: 'samples',
    id: newId(),
    part,
    property: 'rotation',
    interpolation: 'hold',
    times: putArray(blobs, Float32Array.of(0), 1),
    values: putArray(blobs, Float32Array.from(back), 4),
  });
}
