import Joi from 'joi';
import { defineOperation, idsSchema, partOf, type Id } from '../document';
import { degenerateTriangles, dropTriangles, editPartMesh, recomputeNormals } from '../geometry';

const names = (parts: Id[], name: string | undefined) => (parts.length === 1 ? `“${name}”` : `${parts.length} parts`);

export const recomputePartNormals = defineOperation<{ parts: Id[]; angleDegrees: number }>({
  id: 'shape.recompute-normals',
  title: (kit, { parts }) => `Compute the normals of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: Joi.object({ parts: idsSchema.required(), angleDegrees: Joi.number().min(0).max(180).required() }),
  change(kit, { parts, angleDegrees }, blobs) {
    for (const id of parts) {
      partOf(kit, id);
      editPartMesh(kit, id, (mesh) => ({ ...mesh, primitives: mesh.primitives.map((primitive) => recomputeNormals(primitive, angleDegrees, blobs)) }));
    }
  },
});

/** Drops triangles with no area: nothing that is drawn changes. */
export const dropDegenerates = defineOperation<{ parts: Id[] }>({
  id: 'shape.drop-degenerates',
  title: (kit, { parts }) => `Drop the flat triangles of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    for (const id of parts) {
      partOf(kit, id);
      editPartMesh(kit, id, (mesh) => ({
        ...mesh,
        primitives: mesh.primitives.map((primitive) => dropTriangles(primitive, degenerateTriangles(primitive, blobs), blobs)).filter((primitive) => primitive.indices.count > 0),
      }));
    }
  },
});
