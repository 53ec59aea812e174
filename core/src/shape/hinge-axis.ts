import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, KitError, partOf, vec3Schema, type Axis, type Id, type Kit, type Vec3 } from '../document';
import { conjugateQuat, decomposeMatrix, invertMatrix, quatBetween, restWorlds, rotateVector, transformPoint } from '../geometry';
import { movePivotBy } from './move-pivot';
import { ShearError, SkinnedPartError } from './shape-errors';
import { turnOwnAxes } from './turn-own-axes';

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
 * @throws {NoAxisError}
 */
export const setHingeAxis = defineOperation<{ part: Id; axis: Axis; from: Vec3; to: Vec3; keepPivot?: boolean }>({
  id: 'shape.set-hinge-axis',
  title: (kit, { part, axis }) => `Lay the ${'xyz'[axis]} axis of “${kit.parts[part]?.name}” along its hinge`,
  args: Joi.object({
    part: idSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    from: vec3Schema.required(),
    to: vec3Schema.required(),
    keepPivot: Joi.boolean(),
  }),
  change(kit, { part: id, axis, from, to, keepPivot }, blobs) {
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
    const unit: Vec3 = [0, 0, 0];
    unit[axis] = 1;
    turnOwnAxes(kit, id, quatBetween(unit, own), blobs);
  },
});

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
