import Joi from 'joi';
import { idSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** A variable of the kit’s own, worked out of those that the platform passes in. */
export interface DerivedVariable {
  id: Id;
  name: string;
  /** Over the platform’s variables and earlier derived ones; `name[2]` is one of several. */
  expression: string;
  unit: string;
  min: number;
  max: number;
  neutral: number;
}

type PackedDerived = Omit<DerivedVariable, 'id'>;

declare module '../kit' {
  interface Kit {
    /** In the order in which they are worked out. Absent where there are none. */
    derived?: DerivedVariable[];
  }
  interface ManifestSections {
    derived?: PackedDerived[];
  }
}

/** How a variable may be called, so that an expression can say it. */
export const VARIABLE_NAME = /^[A-Za-z_][A-Za-z0-9_]*$/;

const ofDerived = {
  name: Joi.string().max(120).pattern(VARIABLE_NAME).required(),
  expression: Joi.string().min(1).max(1000).required(),
  unit: Joi.string().allow('').max(20).required(),
  min: Joi.number().required(),
  max: Joi.number().greater(Joi.ref('min')).required(),
  neutral: Joi.number().min(Joi.ref('min')).max(Joi.ref('max')).required(),
};

/** A derived variable: its name, expression, unit, range and neutral value. */
export const derivedSchema = Joi.object({ ...ofDerived, id: idSchema.required() } satisfies SchemaOf<DerivedVariable>);

/** Variables that are worked out of others. */
export const derivedSection: Section<'derived'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array()
    .items(derivedSchema)
    .unique('name')
    .max(200)
    .messages({ 'array.unique': '{{#label}} has the name of an earlier one' }),
  fields: [],
  sound: nothing,
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.derived ?? [],
      after.derived ?? [],
      ({ name }) => `Variable ${name}`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from ${a.name}`),
        ...said(a.expression, b.expression, `${a.expression} → ${b.expression}`),
        ...said([a.unit, a.min, a.max, a.neutral], [b.unit, b.min, b.max, b.neutral], 'another range'),
      ],
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(Joi.object(ofDerived)),
      write: (kit) => kit.derived?.map(({ id: _, ...one }) => one),
      read(list, kit) {
        kit.derived = list.map((one, i) => ({ ...one, id: `derived${i}` }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
