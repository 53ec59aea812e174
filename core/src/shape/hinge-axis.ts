import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, KitError, partOf, vec3Schema, type Axis, type Id, type Kit, type Vec3 } from '../document';
import { conjugateQuat, decomposeMatrix, invertMatrix, quatBetween, restWorlds, rotateVector, transformPoint } from '../geometry';
import { movePivotBy } from './move-pivot';
import { ShearError, SkinnedPartError } from './shape-errors';
import { turnOwnAxes } from './turn-own-axes';

/** Axes that lie closer than this to a line lie along it, radians: 10 µm at a metre. */
const AXIS_NOISE = 1e-5;

/** What was picked has no axis. */
export class NoAxisError extends KitError {
  constructor(name: string) {
    super(
      'no-axis',
      `The two ends of the hinge axis of “${name}” stand at one point, so it has no direction. Pick two points apart.`,
      name,
    );
  }
}

/**
 * Lays one of a part's own axes along a line of the world, and its pivot onto it: turning about that axis then swings the part like a door.
 * Rest is turned by the least turn that does it and the geometry turned back; nothing that is drawn moves.
 *
 * @param from The pivot, world, metres. @param to Another point that the axis points to.
 * @param either Whether the axis may point to it or away from it, whichever turns the axes less: turns at rest stay none where they can.
 * @throws {NoAxisError}
 */
export const setHingeAxis = defineOperation<{ part: Id; axis: Axis; from: Vec3; to: Vec3; keepPivot?: boolean; either?: boolean }>({
  id: 'shape.set-hinge-axis',
  title: (kit, { part, axis }) => `Lay the ${'xyz'[axis]} axis of “${kit.parts[part]?.name}” along its hinge`,
  args: Joi.object({
    part: idSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    from: vec3Schema.required(),
    to: vec3Schema.required(),
    keepPivot: Joi.boolean(),
    either: Joi.boolean(),
  }),
  change(kit, { part: id, axis, from, to, keepPivot, either = false }, blobs) {
    const part = partOf(kit, id);
    if (part.skin !== null) throw new SkinnedPartError(part.name);
    const along = to.map((value, i) => value - from[i]) as Vec3;
    const length = Math.hypot(...along);
    if (length < 1e-9) throw new NoAxisError(part.name);
    const world = restWorlds(kit).get(id)!;
    const inverse = invertMatrix(world);
    if (!inverse) throw new ShearError([part.name], 'Laying its axis');
    if (!keepPivot) movePivotBy(kit, id, transformPoint(inverse, from), blobs);
    const { rotation, shear } = decomposeMatrix(world);
    if (shear > 1e-6) throw new ShearError([part.name], 'Laying its axis');
    const own = rotateVector(conjugateQuat(rotation), along.map((value) => value / length) as Vec3);
    const way = either && own[axis] < 0 ? -1 : 1;
    const unit: Vec3 = [0, 0, 0];
    unit[axis] = way;
    const q = quatBetween(unit, own);
    // What is only the noise of floats is no turn.
    if (2 * Math.hypot(q[0], q[1], q[2]) > AXIS_NOISE) turnOwnAxes(kit, id, q, blobs);
  },
});

/**
 * By how many degrees each of a part's own axes would have to turn to lie along a line of the world, either way. All 0 where the line has
 * no length.
 */
export function turnsToLine(kit: Kit, id: Id, [from, to]: readonly [Vec3, Vec3]): Vec3 {
  const { rotation } = decomposeMatrix(restWorlds(kit).get(partOf(kit, id).id)!);
  const along = to.map((value, i) => value - from[i]) as Vec3;
  const length = Math.hypot(...along);
  if (length === 0) return [0, 0, 0];
  const own = rotateVector(conjugateQuat(rotation), along);
  // By both legs: an arc cosine makes degrees of the noise near none.
  return own.map((value, axis) => {
    const off = Math.hypot(...own.filter((_, other) => other !== axis));
    return (Math.atan2(off, Math.abs(value)) * 180) / Math.PI;
  }) as Vec3;
}

/** Makes the rest rotation of parts none: their own axes lie as their parent's do. Nothing that is drawn moves, at rest or at any time. */
export const applyRotation = defineOperation<{ parts: Id[] }>({
  id: 'shape.apply-rotation',
  title: (kit, { parts }) => `Apply rotation to ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    for (const id of parts) {
      turnOwnAxes(kit, id, conjugateQuat(partOf(kit, id).rotation), blobs);
      kit.parts[id].rotation = [0, 0, 0, 1];
    }
  },
});

/**
 * A frame of the world read in the axes of a part: F = W⁻¹ · P, as position and direction.
 *
 * @returns the point and the direction in the part's axes at rest.
 */
export function readInPart(kit: Kit, id: Id, point: Vec3, direction: Vec3): { point: Vec3; direction: Vec3 } {
  const inverse = invertMatrix(restWorlds(kit).get(partOf(kit, id).id)!);
  if (!inverse) throw new ShearError([kit.parts[id].name], 'Reading in its axes');
  const end = transformPoint(inverse, point.map((value, i) => value + direction[i]) as Vec3);
  const own = transformPoint(inverse, point);
  return { point: own, direction: end.map((value, i) => value - own[i]) as Vec3 };
}
