import Joi from 'joi';
import {
  defineOperation,
  idsSchema,
  partOf,
  putArray,
  readArray,
  type Accessor,
  type Blobs,
  type Id,
  type Kit,
  type Primitive,
} from '../document';
import { editMeshesOf } from '../geometry';

/** The numbers of all weight sets of a vertex, strongest first, made to add up to 1. Four go into a set. */
function rewriteWeights(primitive: Primitive, blobs: Blobs, most: number): Primitive {
  const sets: { joints: ArrayLike<number>; weights: ArrayLike<number> }[] = [];
  for (let n = 0; primitive.attributes[`JOINTS_${n}`] && primitive.attributes[`WEIGHTS_${n}`]; n++) {
    sets.push({
      joints: readArray(blobs, primitive.attributes[`JOINTS_${n}`]),
      weights: readArray(blobs, primitive.attributes[`WEIGHTS_${n}`]),
    });
  }
  if (sets.length === 0) return primitive;
  const vertices = sets[0].weights.length / 4;
  const kept = Math.min(sets.length, Math.ceil(most / 4));
  const joints = Array.from({ length: kept }, () => new Uint16Array(4 * vertices));
  const weights = Array.from({ length: kept }, () => new Float32Array(4 * vertices));
  for (let v = 0; v < vertices; v++) {
    const holds = sets
      .flatMap((set) => [0, 1, 2, 3].map((k) => ({ joint: set.joints[4 * v + k], weight: set.weights[4 * v + k] })))
      .filter(({ weight }) => weight > 0)
      .sort((a, b) => b.weight - a.weight)
      .slice(0, most);
    const sum = holds.reduce((all, { weight }) => all + weight, 0);
    holds.forEach(({ joint, weight }, i) => {
      joints[i >> 2][4 * v + (i & 3)] = joint;
      weights[i >> 2][4 * v + (i & 3)] = weight / sum;
    });
  }
  const attributes: Record<string, Accessor> = Object.fromEntries(
    Object.entries(primitive.attributes).filter(([semantic]) => !/^(JOINTS|WEIGHTS)_/.test(semantic)),
  );
  joints.forEach((array, n) => (attributes[`JOINTS_${n}`] = putArray(blobs, array, 4)));
  weights.forEach((array, n) => (attributes[`WEIGHTS_${n}`] = putArray(blobs, array, 4)));
  return { ...primitive, attributes };
}

function editWeights(kit: Kit, parts: Id[], blobs: Blobs, most: number): void {
  parts.forEach((id) => partOf(kit, id));
  editMeshesOf(kit, parts, (mesh) => ({ ...mesh, primitives: mesh.primitives.map((primitive) => rewriteWeights(primitive, blobs, most)) }));
}

const named = (kit: Kit, parts: Id[]) => (parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`);

/** Makes the weights of every held vertex add up to 1. */
export const normaliseWeights = defineOperation<{ parts: Id[] }>({
  id: 'rig.normalise-weights',
  title: (kit, { parts }) => `Make the weights of ${named(kit, parts)} add up`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    editWeights(kit, parts, blobs, Infinity);
  },
});

/** Keeps the strongest joints of every vertex; their weights grow to add up to 1. */
export const limitInfluences = defineOperation<{ parts: Id[]; most: number }>({
  id: 'rig.limit-influences',
  title: (kit, { parts, most }) => `At most ${most} ${most === 1 ? 'joint' : 'joints'} a vertex in ${named(kit, parts)}`,
  args: Joi.object({ parts: idsSchema.required(), most: Joi.number().integer().min(1).max(16).required() }),
  change(kit, { parts, most }, blobs) {
    editWeights(kit, parts, blobs, most);
  },
});
