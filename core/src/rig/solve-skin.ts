import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  idsSchema,
  nameList,
  partOf,
  putArray,
  readArray,
  type Accessor,
  type Blobs,
  type Id,
  type Kit,
} from '../document';
import { NoJointError } from './rig-errors';
import { jointLines, jointsInOrder, placingJoints } from './rig-tree';
import { surfaceOf, writeWeights, type Span } from './skin-field';
import { SOLVE_DEFAULTS, solveWeights, type JointLines, type SolvedWeights, type SolveOptions } from './solve-weights';

/** What the solver reads, in a form that can be given to a worker. */
export interface SkinTask {
  joints: Id[];
  lines: JointLines[];
  positions: Float32Array;
  indices: Uint32Array;
  spans: Span[];
}

/**
 * Takes from a kit what weights are solved from.
 *
 * @param joints All joints of the kit where left out. @param off Those that are to hold nothing; where left out, the one that places the
 * whole.
 * @throws {NoJointError} {@link NoSkinMeshError}
 */
export function skinTask(
  kit: Kit,
  parts: readonly Id[],
  blobs: Blobs,
  joints: readonly Id[] = jointsInOrder(kit),
  off: ReadonlySet<Id> = placingJoints(kit, joints),
): SkinTask {
  for (const id of joints) partOf(kit, id);
  if (joints.length === 0 || joints.every((id) => off.has(id))) throw new NoJointError();
  return { joints: [...joints], lines: jointLines(kit, joints, off), ...surfaceOf(kit, parts, blobs) };
}

/** Solves weights from plain arrays, as a worker does; `progress` is told shares from 0 to 1. */
export const runSkinTask = (task: SkinTask, options: Partial<SolveOptions> = {}, progress?: (share: number) => void): SolvedWeights =>
  solveWeights(task.positions, task.indices, task.lines, { ...SOLVE_DEFAULTS, ...options }, progress);

interface SetWeights {
  joints: Id[];
  spans: Span[];
  /** Four numbers of `joints` a vertex of the spans, and four weights. */
  held: { joints: Accessor; weights: Accessor };
  /** How it came to be, for the history. */
  how?: string;
}

const accessor = Joi.object({
  blob: Joi.string().required(),
  type: Joi.string().required(),
  size: Joi.valid(4).required(),
  count: Joi.number().integer().min(0).required(),
});

/** Gives parts weights that were worked out elsewhere: by a worker, by the brush. */
export const setWeights = defineOperation<SetWeights>({
  id: 'rig.set-weights',
  title: (kit, { spans, how }) =>
    `${how ?? 'Set the weights'} of ${nameList([...new Set(spans.map(({ part }) => kit.parts[part]?.name ?? ''))])}`,
  args: Joi.object({
    joints: idsSchema.required(),
    spans: Joi.array()
      .items(
        Joi.object({
          part: idSchema.required(),
          primitive: Joi.number().integer().min(0).required(),
          start: Joi.number().integer().min(0).required(),
          count: Joi.number().integer().min(0).required(),
        }),
      )
      .min(1)
      .required(),
    held: Joi.object({ joints: accessor.required(), weights: accessor.required() }).required(),
    how: Joi.string().max(80),
  }),
  change(kit, { joints, spans, held }, blobs) {
    writeWeights(
      kit,
      spans,
      joints,
      { joints: readArray<Uint16Array>(blobs, held.joints), weights: readArray<Float32Array>(blobs, held.weights) },
      blobs,
    );
  },
});

/** The arguments of `setWeights` for what a solver gave; puts its arrays. */
export function weightsArgs(
  task: Pick<SkinTask, 'joints' | 'spans'>,
  { joints, weights }: Pick<SolvedWeights, 'joints' | 'weights'>,
  blobs: Blobs,
  how?: string,
): SetWeights {
  return {
    joints: task.joints,
    spans: task.spans,
    held: { joints: putArray(blobs, joints, 4), weights: putArray(blobs, weights, 4) },
    ...(how ? { how } : {}),
  };
}

/** Solves the weights of parts for the kit's joints, and binds them. @see solveWeights for the method */
export const solveSkin = defineOperation<{ parts: Id[]; joints?: Id[]; off?: Id[] } & Partial<SolveOptions>>({
  id: 'rig.solve-weights',
  title: (kit, { parts }) => `Solve the weights of ${nameList(parts.map((id) => kit.parts[id]?.name ?? ''))}`,
  args: Joi.object({
    parts: idsSchema.required(),
    joints: idsSchema,
    off: Joi.array().items(idSchema),
    resolution: Joi.number().integer().min(8).max(192),
    falloff: Joi.number().min(1).max(8),
    smoothing: Joi.number().integer().min(0).max(50),
    influences: Joi.number().integer().min(1).max(4),
    mirrored: Joi.boolean(),
  }),
  change(kit, { parts, joints, off, ...options }, blobs) {
    const task = skinTask(kit, parts, blobs, joints, off && new Set(off));
    writeWeights(kit, task.spans, task.joints, runSkinTask(task, options), blobs);
  },
});
