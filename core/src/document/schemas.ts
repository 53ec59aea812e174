import Joi from 'joi';
import { SIGNED_AXES } from './values';

/** Schemas that sections, operations and manifests share. */

export const idSchema = Joi.string().min(1).max(64);
/** One id or more. */
export const idsSchema = Joi.array().items(idSchema).min(1);
/** An id, or null for none. */
export const maybeIdSchema = idSchema.allow(null);
/** Three finite numbers. */
export const vec3Schema = Joi.array().items(Joi.number().required()).length(3);
/** Four finite numbers, x y z w. That it is of length 1 is asked where it matters. */
export const quatSchema = Joi.array().items(Joi.number().required()).length(4);
/** A name of up to 200 characters, which may be empty. */
export const nameSchema = Joi.string().allow('').max(200);
/** A SHA-256 in lower-case hexadecimal. */
export const shaSchema = Joi.string().pattern(/^[0-9a-f]{64}$/);
/** A whole number from 0. */
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

/** A unit in metres and two different axes, up and forward. */
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

/** A kit's name, 1 to 200 characters. */
export const nameOfKitSchema = Joi.string().min(1).max(200);
/** A rulebook's id, up to 64 characters. */
export const rulebookIdSchema = Joi.string().max(64);
