import { enablePatches, produceWithPatches, applyPatches, type Patch } from 'immer';
import Joi from 'joi';
import type { Blobs } from './blobs';
import { ArgumentsError } from './errors';
import type { Kit } from './types';

enablePatches();

/**
 * Everything that changes a kit. `change` writes to an immer draft and puts new blobs; it reads nothing else.
 * A draft that is left half changed by an error is thrown away.
 */
export interface Operation<Args = unknown> {
  id: string;
  title(kit: Kit, args: Args): string;
  args: Joi.Schema;
  change(kit: Kit, args: Args, blobs: Blobs): void;
}

/** An operation by name with its arguments: what mends, undo and the save request carry. */
export interface Call {
  operation: string;
  args: unknown;
}

export interface Applied {
  kit: Kit;
  title: string;
  patches: Patch[];
  inverse: Patch[];
}

export function defineOperation<Args>(operation: Operation<Args>): Operation<Args> {
  return operation;
}

/** The call of an operation, typed by the operation. */
export function callOf<Args>(operation: Operation<Args>, args: Args): Call {
  return { operation: operation.id, args };
}

/**
 * Runs an operation on a kit.
 *
 * @throws {ArgumentsError} where the arguments do not fit the operation's schema
 */
export function runOperation<Args>(operation: Operation<Args>, kit: Kit, args: Args, blobs: Blobs): Applied {
  const checked = operation.args.validate(args, { convert: false });
  if (checked.error) throw new ArgumentsError(operation.id, checked.error.message);
  const title = operation.title(kit, args);
  const [next, patches, inverse] = produceWithPatches(kit, (draft) => {
    operation.change(draft as Kit, args, blobs);
  });
  return { kit: next, title, patches, inverse };
}

export function patchKit(kit: Kit, patches: Patch[]): Kit {
  return applyPatches(kit, patches);
}

export const idSchema = Joi.string().min(1).max(64);
export const idsSchema = Joi.array().items(idSchema).min(1);
export const vec3Schema = Joi.array().items(Joi.number().required()).length(3);
export const quatSchema = Joi.array().items(Joi.number().required()).length(4);
export type { Patch };
