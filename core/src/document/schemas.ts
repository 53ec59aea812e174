import Joi from 'joi';
import { SIGNED_AXES } from './values';

/** Schemas that sections, operations and manifests share. */

export const idSchema = Joi.string().min(1).max(64);
export const idsSchema = Joi.array().items(idSchema).min(1);
export const maybeIdSchema = idSchema.allow(null);
export const vec3Schema = Joi.array().items(Joi.number().required()).length(3);
export const quatSchema = Joi.array().items(Joi.number().required()).length(4);
export const nameSchema = Joi.string().allow('').max(200);
export const shaSchema = Joi.string().pattern(/^[0-9a-f]{64}$/);
export const countSchema = Joi.number().integer().min(0);

/** @param most Numbers a row. */
export const rowsSchema = (most: number) =>
  Joi.object({
    blob: shaSchema.required(),
    type: Joi.valid('f32', 'u8', 'u16', 'u32').required(),
    size: countSchema.min(1).max(most).required(),
    count: countSchema.required(),
  });
/** Up to a matrix a row. */
export const accessorSchema = rowsSchema(16);

export const spaceSchema = Joi.object({
  metresPerUnit: Joi.number().positive().required(),
  up: Joi.valid(...SIGNED_AXES).required(),
  forward: Joi.valid(...SIGNED_AXES).required(),
  handedness: Joi.valid('right', 'left').required(),
});

/** A schema for each field of a record, none left out: what the type has, the schema has. */
export type SchemaOf<T> = Record<keyof Required<T>, Joi.Schema>;

/** The schema of a record, and the names of its fields. */
export function recordSchema<T>(fields: SchemaOf<T>): { schema: Joi.ObjectSchema; fields: (keyof T & string)[] } {
  return { schema: Joi.object(fields as Joi.PartialSchemaMap), fields: Object.keys(fields) as (keyof T & string)[] };
}

export const nameOfKitSchema = Joi.string().min(1).max(200);
export const rulebookIdSchema = Joi.string().max(64);
