import Joi from 'joi';
import { defineOperation, idsSchema, partOf, type Id, type Mesh, type MeshLevel } from '../document';
import { editMeshesOf, meshCounts } from '../geometry';
import { simplification } from './simplify';

/** A level that a target asks for. */
export interface LevelAsked {
  name: string;
  /** Of the mesh's triangles, 0 to 1. */
  share: number;
}

const levelsSchema = Joi.array()
  .items(Joi.object({ name: Joi.string().min(1).max(40).required(), share: Joi.number().greater(0).less(1).required() }))
  .min(1)
  .max(8)
  .unique('name');

/**
 * Makes the levels of detail of parts' meshes, each simplified from the mesh itself; borders stay. Nothing that is drawn near by changes.
 */
export const makeLevels = defineOperation<{ parts: Id[]; levels: LevelAsked[] }>({
  id: 'shape.make-levels',
  title: (kit, { parts, levels }) =>
    `Make ${levels.map(({ name }) => `“${name}”`).join(' and ')} of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({ parts: idsSchema.required(), levels: levelsSchema.required() }),
  change(kit, { parts, levels }, blobs) {
    const drawn = parts.filter((id) => partOf(kit, id).mesh !== null);
    const made = new Map<Id, MeshLevel[]>();
    for (const id of drawn) {
      const mesh = kit.parts[id].mesh!;
      if (made.has(mesh)) continue;
      const { triangles } = meshCounts(kit, mesh);
      const list = levels.map(({ name, share }): MeshLevel => {
        const { meshes, errorMm } = simplification(
          kit,
          { parts: [id], goal: { triangles: Math.max(1, Math.round(share * triangles)) } },
          blobs,
        );
        return { name, errorMm, primitives: meshes.get(mesh)!.primitives };
      });
      made.set(mesh, list);
    }
    editMeshesOf(kit, drawn, (mesh): Mesh => ({ ...mesh, levels: made.get(mesh.id)! }));
  },
});

/** Takes the levels of detail of parts out. */
export const dropLevels = defineOperation<{ parts: Id[] }>({
  id: 'shape.drop-levels',
  title: (kit, { parts }) => `Take the levels of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} out`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }) {
    parts.forEach((id) => partOf(kit, id));
    editMeshesOf(kit, parts, ({ levels: _, ...mesh }): Mesh => mesh);
  },
});
