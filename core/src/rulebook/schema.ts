import Joi from 'joi';
import { KitError, ROLES, spaceSchema } from '../document';
import { GRADES, RULEBOOK_FORMAT, type Rulebook } from './types';

const text = Joi.string().min(1).max(2000).required();
const identifier = Joi.string()
  .pattern(/^[a-z][a-z0-9.-]*$/)
  .max(64)
  .required();

const schema = Joi.object({
  format: Joi.valid(RULEBOOK_FORMAT).required(),
  id: identifier,
  version: Joi.string()
    .pattern(/^\d+\.\d+\.\d+$/)
    .required(),
  title: text,
  summary: text,
  space: spaceSchema.required(),
  unit: Joi.object({ name: text, short: Joi.string().min(1).max(8).required() }).required(),
  tileMetres: Joi.number().positive().required(),
  stepMetres: Joi.number().positive().required(),
  stepDegrees: Joi.number().positive().required(),
  naming: Joi.object({
    root: text,
    maxLength: Joi.number().integer().min(1).max(200).required(),
    patterns: Joi.array()
      .items(
        Joi.object({
          role: Joi.valid(...ROLES, null).required(),
          prefix: Joi.string().allow('').max(40).required(),
          pattern: Joi.string().min(1).max(200).required(),
          explain: text,
          examples: Joi.array().items(Joi.string()).min(1).required(),
        }),
      )
      .min(1)
      .required(),
  }).required(),
  variables: Joi.array()
    .items(
      Joi.object({
        name: Joi.string()
          .pattern(/^[a-z][a-z0-9_]*$/)
          .max(64)
          .required(),
        title: text,
        group: text,
        unit: text,
        min: Joi.number().required(),
        max: Joi.number().greater(Joi.ref('min')).required(),
        neutral: Joi.number().min(Joi.ref('min')).max(Joi.ref('max')).required(),
        indices: Joi.number().integer().min(0).max(64).required(),
        kind: Joi.valid('commanded', 'actual').required(),
        positive: text,
      }),
    )
    .unique('name')
    .required(),
  packaging: Joi.array()
    .items(Joi.object({ path: text, holds: Joi.valid('model', 'bindings-table').required() }))
    .min(1)
    .unique('path')
    .required(),
  rules: Joi.array()
    .items(Joi.object({ id: identifier, check: identifier, grade: Joi.valid(...GRADES).required(), why: text, limit: Joi.number() }))
    .unique('id')
    .required(),
});

export class RulebookError extends KitError {
  constructor(detail: string, where: string) {
    super('rulebook', `This rulebook can't be used: ${detail}. Mend it there and read it again.`, where);
  }
}

/** @throws {RulebookError} naming the first field that does not fit */
export function checkRulebook(value: unknown): Rulebook {
  const { error } = schema.validate(value, { convert: false });
  if (error) throw new RulebookError(error.message, error.details[0].path.join('.'));
  const rulebook = value as Rulebook;
  for (const [i, { pattern, examples }] of rulebook.naming.patterns.entries()) {
    const missed = examples.find((example) => !new RegExp(pattern).test(example));
    if (missed !== undefined) throw new RulebookError(`the example “${missed}” does not fit the pattern ${pattern}`, `naming.patterns.${i}`);
  }
  return rulebook;
}
