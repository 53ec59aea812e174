import Joi from 'joi';
import { KitError } from '../../document';

/** Something that a motion needs of a body and that is not there, or not known. */
export class MotionFitError extends KitError {
  constructor(message: string) {
    super('fit-motion', message);
  }
}

/** How a motion is fitted to a body. */
export interface FitChoices {
  /** Arms further out from the body, degrees. */
  armSpread: number;
  /** Factor of the steps. */
  stride: number;
  /** How much lower or higher the hips are, in their own height. */
  hipHeight: number;
  /** Left for right. */
  mirrored: boolean;
  /** Whether the root stays where it is, or travels. */
  inPlace: boolean;
}

/** Nothing but what it does already. */
export const AS_IT_IS: FitChoices = { armSpread: 0, stride: 1, hipHeight: 0, mirrored: false, inPlace: false };

/** Whether choices change nothing. */
export const isAsItIs = (choices: FitChoices) =>
  (Object.keys(AS_IT_IS) as (keyof FitChoices)[]).every((field) => choices[field] === AS_IT_IS[field]);

/** How a motion is fitted: degrees, metres and factors. */
export const choicesSchema = Joi.object({
  armSpread: Joi.number().min(-60).max(90).required(),
  stride: Joi.number().greater(0).max(3).required(),
  hipHeight: Joi.number().min(-0.6).max(0.3).required(),
  mirrored: Joi.boolean().required(),
  inPlace: Joi.boolean().required(),
});
