import Joi from 'joi';
import { defineOperation, idsSchema, partOf, type Id, type Part, type Quat, type Vec3 } from '../document';
import { noiseTarget, quatFromTurn, turnFromQuat } from '../geometry';

export interface NoiseSteps {
  /** Step of translations, metres. */
  stepMetres: number;
  /** Step of turns, degrees. */
  stepDegrees: number;
}

/** 32-bit quaternions are exact to about this, degrees. */
const QUATERNION_ROUNDING = 1.2e-5;

/** What a part's numbers mean where they carry noise; null for those that are fine. */
export function noiseOf(
  part: Part,
  { stepMetres, stepDegrees }: NoiseSteps,
): { translation: Vec3 | null; rotation: Quat | null; scale: Vec3 | null; worst: number } {
  let worst = 0;
  const clean = (values: Vec3, step: number, ignore?: number): Vec3 | null => {
    let found = false;
    const result = values.map((value) => {
      const target = noiseTarget(value, step, ignore);
      if (target === null) return value;
      found = true;
      worst = Math.max(worst, Math.abs(target - value));
      return target;
    }) as Vec3;
    return found ? result : null;
  };
  const turn = clean(turnFromQuat(part.rotation, part.turnOrder), stepDegrees, QUATERNION_ROUNDING);
  const nearOne = part.scale.map((value) => (Math.abs(value - 1) <= 1e-4 ? value : 1)) as Vec3;
  const ones = clean(nearOne, 1);
  return {
    translation: clean(part.translation, stepMetres),
    rotation: turn && quatFromTurn(turn, part.turnOrder),
    scale: ones && (part.scale.map((value) => (Math.abs(value - 1) <= 1e-4 ? 1 : value)) as Vec3),
    worst,
  };
}

/** Puts numbers that are a hair off a multiple of the step on it; touches nothing else (less than 0.1 mm or 0.0001° each). */
export const cleanNoise = defineOperation<{ parts: Id[] } & NoiseSteps>({
  id: 'shape.clean-noise',
  title: (kit, { parts }) => `Clean the numbers of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({
    parts: idsSchema.required(),
    stepMetres: Joi.number().positive().required(),
    stepDegrees: Joi.number().positive().required(),
  }),
  change(kit, { parts, ...steps }) {
    for (const id of parts) {
      const part = partOf(kit, id);
      const { translation, rotation, scale } = noiseOf(part, steps);
      if (translation) part.translation = translation;
      if (rotation) part.rotation = rotation;
      if (scale) part.scale = scale;
    }
  },
});
