import { dropTarget, renameKit, runOperation, setAside, setTarget, takeUp, KitError, type Applied, type Blobs, type Call, type Kit, type Operation } from './document';
import { dropParked, giveParked, settleSource, takeVersion } from './intake';
import {
  addClip,
  addRestClip,
  divideTurns,
  keepClips,
  meetSeam,
  moveKeys,
  placeClip,
  removeClip,
  removeKeys,
  removeTrack,
  removeTracks,
  setClip,
  setEasing,
  setKeys,
  splitClip,
  takeClips,
  trimClip,
} from './motion';
import {
  applyScale,
  cleanNoise,
  dissolveParents,
  dropDegenerates,
  dropUnusedVertices,
  dropUvSets,
  gatherUnderRoot,
  insertParent,
  mergeDuplicates,
  movePivot,
  pivotToAnchor,
  recomputePartNormals,
  removeParts,
  renameParts,
  reparentParts,
  repeatAlongLine,
  repeatOnRing,
  resizeImage,
  setHidden,
  setMaterial,
  setOnGround,
  setRole,
  setTransform,
  turnPartWindings,
} from './shape';
import { limitInfluences, normaliseWeights } from './rig';
import { addBinding, completeTable, removeBinding, removeBindingRow, setBinding, setBindingRow } from './wiring';

const ALL = [
  renameKit,
  setTarget,
  dropTarget,
  setAside,
  takeUp,
  settleSource,
  takeVersion,
  giveParked,
  dropParked,
  renameParts,
  setRole,
  setHidden,
  reparentParts,
  insertParent,
  dissolveParents,
  repeatAlongLine,
  repeatOnRing,
  setTransform,
  setOnGround,
  movePivot,
  pivotToAnchor,
  applyScale,
  cleanNoise,
  gatherUnderRoot,
  recomputePartNormals,
  dropDegenerates,
  dropUnusedVertices,
  dropUvSets,
  turnPartWindings,
  setMaterial,
  mergeDuplicates,
  resizeImage,
  normaliseWeights,
  limitInfluences,
  removeParts,
  addClip,
  setClip,
  placeClip,
  addRestClip,
  removeTracks,
  meetSeam,
  divideTurns,
  removeClip,
  removeTrack,
  keepClips,
  splitClip,
  trimClip,
  takeClips,
  setKeys,
  removeKeys,
  moveKeys,
  setEasing,
  addBinding,
  setBinding,
  removeBinding,
  setBindingRow,
  removeBindingRow,
  completeTable,
] as unknown as Operation[];

/** Every operation by its id. */
export const OPERATIONS: ReadonlyMap<string, Operation> = new Map(ALL.map((operation) => [operation.id, operation]));

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

/** The call of an operation, typed by the operation. */
export function callOf<Args>(operation: Operation<Args>, args: Args): Call {
  return { operation: operation.id, args };
}
