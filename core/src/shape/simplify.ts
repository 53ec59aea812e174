import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, partOf, slotsOf, type Blobs, type Id, type Kit, type Mesh } from '../document';
import { editMeshesOf, meshCounts, restWorlds } from '../geometry';
import { simplifyMeshes, type SimplifyGoal } from './simplify-meshes';

export interface SimplifyArgs {
  parts: Id[];
  goal: SimplifyGoal;
  /** Open edges stay where they are. */
  keepBorders?: boolean;
  /** Parts of the choice that are left as they are. */
  spare?: Id[];
}

/** What simplifying would come to: triangles and the error in millimetres, and the meshes by their old ids. */
export function simplification(
  kit: Kit,
  { parts, goal, keepBorders = true, spare = [] }: SimplifyArgs,
  blobs: Blobs,
): { meshes: Map<Id, Mesh>; parts: Id[]; errorMm: number } {
  const spared = new Set(spare);
  const chosen = parts.filter((id) => partOf(kit, id).mesh !== null && !spared.has(id));
  const ids = [...new Set(chosen.map((id) => kit.parts[id].mesh!))];
  const worlds = restWorlds(kit);
  const scaleOf = (mesh: Id) => Math.max(...chosen.filter((id) => kit.parts[id].mesh === mesh).map((id) => greatestScale(worlds.get(id)!)));
  const left = parts.filter((id) => spared.has(id)).reduce((sum, id) => sum + meshCounts(kit, kit.parts[id].mesh).triangles, 0);
  const own: SimplifyGoal = 'triangles' in goal ? { triangles: Math.max(0, goal.triangles - left) } : goal;
  const copies = ids.map((mesh) => chosen.filter((id) => kit.parts[id].mesh === mesh).length);
  const { meshes, error } = simplifyMeshes(
    ids.map((id) => kit.meshes[id]),
    copies,
    ids.map(scaleOf),
    own,
    { keepBorders, showsPicture: (material) => material !== null && slotsOf(kit.materials[material]).length > 0 },
    blobs,
  );
  return { meshes: new Map(ids.map((id, i) => [id, meshes[i]])), parts: chosen, errorMm: error * 1000 };
}

function greatestScale(m: ArrayLike<number>): number {
  return Math.max(Math.hypot(m[0], m[1], m[2]), Math.hypot(m[4], m[5], m[6]), Math.hypot(m[8], m[9], m[10]));
}

const goalSchema = Joi.alternatives(
  Joi.object({ triangles: Joi.number().integer().min(1).required() }),
  Joi.object({ share: Joi.number().greater(0).max(1).required() }),
  Joi.object({ toleranceMm: Joi.number().min(0).required() }),
);

/** Simplifies parts; shapes that several of them show are simplified once. @throws {SimplifierNotReadyError} before `loadSimplifier` */
export const simplifyParts = defineOperation<SimplifyArgs>({
  id: 'shape.simplify',
  title: (kit, { parts }) => `Simplify ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({
    parts: idsSchema.required(),
    goal: goalSchema.required(),
    keepBorders: Joi.boolean(),
    spare: Joi.array().items(idSchema),
  }),
  change(kit, args, blobs) {
    const { meshes, parts } = simplification(kit, args, blobs);
    const byOld = new Map([...meshes].map(([id, mesh]) => [kit.meshes[id], mesh]));
    if (parts.length > 0) editMeshesOf(kit, parts, (mesh) => byOld.get(mesh) ?? mesh);
  },
});
