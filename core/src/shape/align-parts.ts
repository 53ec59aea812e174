import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, partOf, type Axis, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import { invertMatrix, isEmptyBounds, quatFromTurn, restBounds, restWorlds, sideOfBounds, transformPoint, turnFromQuat } from '../geometry';
import { topmost } from './repeat';
import { ShearError } from './shape-errors';

/** By what a part is aligned. */
export const ALIGN_SIDES = ['low', 'middle', 'high', 'pivot'] as const;
/** What of a part comes to the place: the low or the high side of its bounds, their middle, or its pivot. */
export type AlignSide = (typeof ALIGN_SIDES)[number];

/** Moves a part by metres of the world; what it carries goes along. Writes to the draft. */
export function moveInWorld(kit: Kit, id: Id, by: Vec3): void {
  const part = partOf(kit, id);
  const parent = part.parent === null ? null : restWorlds(kit).get(part.parent)!;
  const inverse = parent && invertMatrix(parent);
  if (parent && !inverse) throw new ShearError([part.name], 'Moving it');
  const origin = inverse ? transformPoint(inverse, [0, 0, 0]) : [0, 0, 0];
  const end = inverse ? transformPoint(inverse, by) : by;
  part.translation = part.translation.map((value, axis) => value + end[axis] - origin[axis]) as Vec3;
}

/**
 * Moves parts along an axis of the world until a side of each, or of all of them together, stands at a place.
 *
 * @param at Metres from the origin. @param together As one: what lies between them stays.
 */
export const alignParts = defineOperation<{ parts: Id[]; axis: Axis; side: AlignSide; at: number; together?: boolean }>({
  id: 'shape.align',
  title: (kit, { parts, axis, at }) =>
    `Align ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} to ${'xyz'[axis]} = ${Number(at.toFixed(4))} m`,
  args: Joi.object({
    parts: idsSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    side: Joi.valid(...ALIGN_SIDES).required(),
    at: Joi.number().required(),
    together: Joi.boolean(),
  }),
  change(kit, { parts, axis, side, at, together = false }, blobs) {
    parts.forEach((id) => partOf(kit, id));
    const tops = topmost(kit, parts);
    const places = tops.map((id) => placeOf(kit, together ? tops : [id], axis, side, blobs));
    tops.forEach((id, i) => {
      const by: Vec3 = [0, 0, 0];
      by[axis] = at - places[i];
      if (by[axis] !== 0) moveInWorld(kit, id, by);
    });
  },
});

/** Where a side of parts, with all that they carry, stands along an axis of the world, metres. */
function placeOf(kit: Kit, tops: Id[], axis: Axis, side: AlignSide, blobs: Blobs): number {
  const pivot = restWorlds(kit).get(tops[0])![12 + axis];
  if (side === 'pivot') return pivot;
  const bounds = restBounds(kit, blobs, branchesOf(kit, tops));
  return isEmptyBounds(bounds) ? pivot : sideOfBounds(bounds, axis, side);
}

function branchesOf(kit: Kit, tops: Id[]): Id[] {
  const found = new Set(tops);
  for (let before = 0; before < found.size;) {
    before = found.size;
    for (const part of Object.values(kit.parts)) if (part.parent !== null && found.has(part.parent)) found.add(part.id);
  }
  return [...found];
}

const nearest = (value: number, step: number) => Number((Math.round(value / step) * step).toPrecision(12)) + 0;

/** Puts places and turns of parts, within their parents, on the nearest whole step. A step of 0 leaves them. */
export const snapParts = defineOperation<{ parts: Id[]; stepMetres: number; stepDegrees: number }>({
  id: 'shape.snap',
  title: (kit, { parts }) => `Put ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} on the step`,
  args: Joi.object({
    parts: Joi.array().items(idSchema).min(1).required(),
    stepMetres: Joi.number().min(0).required(),
    stepDegrees: Joi.number().min(0).max(90).required(),
  }),
  change(kit, { parts, stepMetres, stepDegrees }) {
    for (const id of parts) {
      const part = partOf(kit, id);
      if (stepMetres > 0) part.translation = part.translation.map((value) => nearest(value, stepMetres)) as Vec3;
      if (stepDegrees <= 0) continue;
      const turn = turnFromQuat(part.rotation, part.turnOrder).map((value) => nearest(value, stepDegrees)) as Vec3;
      part.rotation = turn.every((value) => value === 0) ? [0, 0, 0, 1] : quatFromTurn(turn, part.turnOrder);
    }
  },
});
