import * as behaviour from '../behaviour';
import * as document from '../document';
import { KitError, runOperation, type Applied, type Blobs, type Call, type Kit, type Operation } from '../document';
import * as grounds from '../grounds';
import * as intake from '../intake';
import * as motion from '../motion';
import * as rig from '../rig';
import * as shape from '../shape';
import * as wiring from '../wiring';

const isOperation = (value: unknown): value is Operation =>
  typeof value === 'object' &&
  value !== null &&
  'id' in value &&
  'args' in value &&
  'change' in value &&
  typeof value.change === 'function';

/** Every operation by its id: whatever the folders offer that is one. */
export const OPERATIONS: ReadonlyMap<string, Operation> = new Map(
  [document, intake, motion, shape, rig, wiring, grounds, behaviour]
    .flatMap((folder) => Object.values<unknown>(folder).filter(isOperation))
    .map((operation) => [operation.id, operation]),
);

/** An operation that this version does not have. */
export class UnknownOperationError extends KitError {
  constructor(id: string) {
    super('unknown-operation', `There is no operation “${id}” in this version. Reload the page to get the version that has it.`, id);
  }
}

/** Runs an operation by name. */
export function runCall(kit: Kit, call: Call, blobs: Blobs): Applied {
  const operation = OPERATIONS.get(call.operation);
  if (!operation) throw new UnknownOperationError(call.operation);
  return runOperation(operation, kit, call.args, blobs);
}
