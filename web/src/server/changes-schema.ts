import Joi from 'joi';

/** As many fields as the largest kits have, and none could change by hand. */
const MOST_CHANGES = 200_000;
const MOST_STEPS = 16;
const name = Joi.string().max(200);
const step = Joi.alternatives(
  name,
  Joi.number().integer().min(0).max(1_000_000),
  Joi.object({ id: name, time: Joi.number(), value: Joi.number() }).length(1),
);

/** Changes of fields: their paths bounded in length and in what they may name. What a kit may hold is asked of the result. */
export const changesSchema = Joi.array()
  .items(
    Joi.object({
      path: Joi.array().items(step).min(1).max(MOST_STEPS).required(),
      was: Joi.any(),
      now: Joi.any(),
    }),
  )
  .max(MOST_CHANGES)
  .required();
