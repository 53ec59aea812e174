import { applyPatches, current, enablePatches, isDraft, produceWithPatches, type Patch } from 'immer';
import type Joi from 'joi';
import type { Blobs } from './blobs';
import { checkKit, checkTouched } from './check-kit';
import { ArgumentsError } from './errors';
import type { Kit } from './kit';
import { mustBeKeepable } from './text';
import type { Id } from './values';

enablePatches();

/** Where what was chosen went, as far as an operation moves it: a field that is not there says nothing of it. */
export interface Chosen {
  parts?: Id[];
  clip?: Id | null;
  /** Keys by their track and time, seconds: those that were worked on, wherever they are now. */
  keys?: { track: Id; time: number }[];
  /** Whether the keys are new, and are chosen even where none were. */
  fresh?: boolean;
  binding?: Id | null;
  /** What else is to be told of what was done. */
  told?: string | null;
}

/**
 * Everything that changes a kit. `change` writes to an immer draft and puts new blobs; it reads nothing else. It gives where what was
 * chosen went, where that is not where it was. A draft that is left half changed by an error is thrown away, and so is one that would not
 * hold together.
 */
export interface Operation<Args = unknown> {
  id: string;
  title(kit: Kit, args: Args): string;
  args: Joi.Schema;
  change(kit: Kit, args: Args, blobs: Blobs): Chosen | void;
}

/** A kit that is being changed as plain data, as it is now: what reads much of it does so many times faster. */
export const asItIs = (kit: Kit): Kit => (isDraft(kit) ? current(kit) : kit);

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
  /** Where what was chosen went; empty where it stayed. */
  chosen: Chosen;
}

/** Names an operation: id, title, schema of its arguments and its change. `runOperation` runs it. */
export function defineOperation<Args>(operation: Operation<Args>): Operation<Args> {
  return operation;
}

/** The call of an operation, typed by the operation. */
export function callOf<Args>(operation: Operation<Args>, args: Args): Call {
  return { operation: operation.id, args };
}

/** In development and in tests every record is looked at, so that one that an operation spoils without touching it shows. */
const looksAtAll = process.env.NODE_ENV !== 'production';

/**
 * Runs an operation on a kit. What it leaves holds together, as the server asks it to.
 *
 * @throws {ArgumentsError} where the arguments do not fit the operation's schema
 * @throws {TextError} where a text in them can't be kept
 * @throws {KitSchemaError} where the kit would not hold together afterwards
 */
export function runOperation<Args>(operation: Operation<Args>, kit: Kit, args: Args, blobs: Blobs): Applied {
  const checked = operation.args.validate(args, { convert: false });
  if (checked.error) throw new ArgumentsError(operation.id, checked.error.message);
  mustBeKeepable(args);
  const title = operation.title(kit, args);
  let chosen: Chosen = {};
  const [next, patches, inverse] = produceWithPatches(kit, (draft) => {
    const said = operation.change(draft as Kit, args, blobs);
    if (said) chosen = said;
  });
  if (looksAtAll) checkKit(next);
  else checkTouched(kit, next);
  return { kit: next, title, patches, inverse, chosen };
}

/** A document with immer's patches applied; the one given stays as it is. */
export function patchKit(kit: Kit, patches: Patch[]): Kit {
  return applyPatches(kit, patches);
}

export type { Patch };
