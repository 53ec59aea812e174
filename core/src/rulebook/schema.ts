import Joi from 'joi';
import { CUE_KINDS, EASINGS, KitError, LOOP_MODES, ROLES, spaceSchema } from '../document';
import { CHECKS } from './checks';
import { namePattern, PatternError } from './name-pattern';
import { GRADES, HOLDS, PIVOT_PLACES, RULEBOOK_FORMAT, TRACK_KINDS, type Rulebook } from './types';

const text = Joi.string().min(1).max(2000).required();
const short = Joi.string().min(1).max(200).required();
const identifier = Joi.string()
  .pattern(/^[a-z][a-z0-9.-]*$/)
  .max(64)
  .required();
const role = Joi.valid(...ROLES);
const anchor = Joi.array()
  .items(Joi.valid(-1, 0, 1))
  .length(3);

const naming = Joi.object({
  root: short,
  maxLength: Joi.number().integer().min(1).max(200).required(),
  patterns: Joi.array()
    .items(
      Joi.object({
        role: Joi.valid(...ROLES, null).required(),
        prefix: Joi.string().allow('').max(40).required(),
        pattern: Joi.string().min(1).max(200).required(),
        explain: text,
        examples: Joi.array().items(Joi.string().max(200)).min(1).max(20).required(),
      }),
    )
    .min(1)
    .max(40)
    .required(),
  reserved: Joi.array().items(Joi.string().min(1).max(200)).max(200),
  sides: Joi.object({
    place: Joi.valid('prefix', 'suffix').required(),
    left: Joi.string().min(1).max(20).required(),
    right: Joi.string().min(1).max(20).required(),
  }),
  required: Joi.array()
    .items(Joi.object({ name: short, under: Joi.string().min(1).max(200).allow(null).required(), why: text }))
    .max(200)
    .unique('name'),
});

const motion = Joi.object({
  clips: Joi.array()
    .items(Joi.object({ name: short, needed: Joi.boolean().required(), loop: Joi.valid(...LOOP_MODES, null).required(), about: text }))
    .max(200)
    .unique('name'),
  rate: Joi.number().min(1).max(240),
  easings: Joi.array()
    .items(Joi.valid(...EASINGS))
    .min(1)
    .unique(),
  tracks: Joi.array()
    .items(Joi.valid(...TRACK_KINDS))
    .min(1)
    .unique(),
  loops: Joi.array()
    .items(Joi.valid(...LOOP_MODES))
    .min(1)
    .unique(),
  overlays: Joi.boolean(),
  cues: Joi.array()
    .items(Joi.valid(...CUE_KINDS))
    .unique(),
  rest: Joi.string().min(1).max(200),
});

const variable = Joi.object({
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
});

const schema = Joi.object({
  format: Joi.valid(RULEBOOK_FORMAT).required(),
  id: identifier,
  version: Joi.string()
    .pattern(/^\d{1,6}\.\d{1,6}\.\d{1,6}$/)
    .required(),
  title: short,
  summary: text,
  space: spaceSchema.required(),
  unit: Joi.object({ name: short, short: Joi.string().min(1).max(8).required() }).required(),
  tileMetres: Joi.number().positive().required(),
  stepMetres: Joi.number().positive().required(),
  stepDegrees: Joi.number().positive().required(),
  sizeClasses: Joi.array()
    .items(Joi.object({ name: short, max: Joi.array().items(Joi.number().positive().required()).length(3).required(), about: text }))
    .min(1)
    .max(40)
    .unique('name'),
  naming: naming.required(),
  hierarchy: Joi.object({
    parents: Joi.array()
      .items(Joi.object({ role: role.required(), under: Joi.array().items(role).min(1).unique().required() }))
      .unique('role'),
    drivenOrder: Joi.array().items(Joi.string().max(64)).min(2).unique(),
    anchors: Joi.array().items(Joi.string().min(1).max(200)).min(1).max(40).unique(),
  }),
  pivots: Joi.array()
    .items(
      Joi.object({
        role: role.required(),
        place: Joi.valid(...PIVOT_PLACES).required(),
        anchor: Joi.when('place', { is: 'anchor', then: anchor.required(), otherwise: Joi.forbidden() }),
        axis: Joi.when('place', { is: 'on-parent-axis', then: Joi.valid(0, 1, 2).required(), otherwise: Joi.forbidden() }),
      }),
    )
    .max(40),
  materials: Joi.object({
    slots: Joi.array()
      .items(Joi.object({ name: short, needed: Joi.boolean().required(), about: text }))
      .max(100)
      .unique('name'),
    formats: Joi.array()
      .items(Joi.valid('image/png', 'image/jpeg', 'image/webp'))
      .min(1)
      .unique(),
    alphaModes: Joi.array()
      .items(Joi.valid('OPAQUE', 'MASK', 'BLEND'))
      .min(1)
      .unique(),
  }),
  uv: Joi.object({
    layouts: Joi.array()
      .items(
        Joi.object({
          part: short,
          fingerprint: Joi.string()
            .pattern(/^[0-9a-f]{16}$/)
            .required(),
          about: text,
        }),
      )
      .max(200)
      .unique('part'),
  }),
  levels: Joi.array()
    .items(
      Joi.object({
        name: Joi.string()
          .pattern(/^[a-z0-9_-]+$/)
          .max(40)
          .required(),
        share: Joi.number().greater(0).less(1).required(),
        about: text,
      }),
    )
    .min(1)
    .max(8)
    .unique('name'),
  skeleton: Joi.array()
    .items(Joi.object({ name: short, parent: Joi.string().min(1).max(200).allow(null).required(), needed: Joi.boolean().required() }))
    .min(1)
    .max(400)
    .unique('name'),
  motion,
  variables: Joi.array().items(variable).max(2000).unique('name').required(),
  packaging: Joi.array()
    .items(Joi.object({ path: short, holds: Joi.valid(...HOLDS).required() }))
    .min(1)
    .max(40)
    .unique('path')
    .required(),
  rules: Joi.array()
    .items(
      Joi.object({
        id: identifier,
        check: identifier,
        grade: Joi.valid(...GRADES).required(),
        why: text,
        limit: Joi.number().min(0),
        roles: Joi.array().items(role).min(1).unique(),
      }),
    )
    .max(500)
    .unique('id')
    .required(),
});

export class RulebookError extends KitError {
  constructor(
    readonly detail: string,
    where: string,
  ) {
    super('rulebook', `This rulebook can't be used: ${detail}. Mend it there and read it again.`, where);
  }
}

/** @throws {RulebookError} naming the first field that does not fit */
export function checkRulebook(value: unknown): Rulebook {
  const { error } = schema.validate(value, { convert: false });
  if (error) throw new RulebookError(error.message, error.details[0].path.join('.'));
  const rulebook = value as Rulebook;
  checkPatterns(rulebook);
  checkReferences(rulebook);
  return rulebook;
}

function checkPatterns(rulebook: Rulebook): void {
  for (const [i, { pattern, examples }] of rulebook.naming.patterns.entries()) {
    try {
      const made = namePattern(pattern);
      const missed = examples.findIndex((example) => !made.test(example));
      if (missed >= 0)
        throw new RulebookError(
          `the example “${examples[missed]}” does not fit the pattern ${pattern}`,
          `naming.patterns.${i}.examples.${missed}`,
        );
    } catch (error) {
      if (error instanceof PatternError)
        throw new RulebookError(`the pattern ${pattern} is refused: ${error.message} (place ${error.at})`, `naming.patterns.${i}.pattern`);
      throw error;
    }
  }
}

function checkReferences(rulebook: Rulebook): void {
  const names = new Set(rulebook.variables.map((one) => one.name));
  const unknown = rulebook.hierarchy?.drivenOrder?.findIndex((name) => !names.has(name)) ?? -1;
  if (unknown >= 0)
    throw new RulebookError(
      `the variable “${rulebook.hierarchy!.drivenOrder![unknown]}” is not in the catalogue`,
      `hierarchy.drivenOrder.${unknown}`,
    );
  const joints = new Set(rulebook.skeleton?.map((joint) => joint.name));
  for (const [i, { name, parent }] of (rulebook.skeleton ?? []).entries()) {
    if (parent !== null && !joints.has(parent))
      throw new RulebookError(`the joint “${name}” hangs below “${parent}”, which is not in the skeleton`, `skeleton.${i}.parent`);
  }
  for (const [i, { path, holds }] of rulebook.packaging.entries()) {
    const hole = holds === 'clip' ? '{clip}' : holds === 'texture' ? '{texture}' : holds === 'level' ? '{level}' : null;
    if (hole !== null && !path.includes(hole))
      throw new RulebookError(`“${path}” has to say ${hole}: there is a file for each`, `packaging.${i}.path`);
    const bad = path.replace(/\{(kit|clip|texture|level)\}/g, 'x').match(/[{}\\:*?"<>|]|^\/|(^|\/)\.\.?(\/|$)|\/\/|\/$/);
    if (bad) throw new RulebookError(`“${path}” is no path within a package`, `packaging.${i}.path`);
  }
  for (const [i, rule] of rulebook.rules.entries()) {
    const check = CHECKS.get(rule.check);
    if (!check)
      throw new RulebookError(`the rule “${rule.id}” asks for the check “${rule.check}”, which does not exist`, `rules.${i}.check`);
    if (check.limit && rule.limit === undefined)
      throw new RulebookError(`the rule “${rule.id}” needs a limit (${check.limit})`, `rules.${i}.limit`);
    const missing = check.needs?.(rulebook) ?? null;
    if (missing !== null) throw new RulebookError(`the rule “${rule.id}” needs ${missing} in the rulebook`, `rules.${i}.check`);
  }
}
