import Joi from 'joi';
import { defineOperation, idsSchema, partOf, type Accessor, type Id, type Kit, type Mesh, type Primitive } from '../document';
import {
  degenerateTriangles,
  dropTriangles,
  dropUnused,
  editMeshesOf,
  FOLLOWS,
  recomputeNormals,
  turnByPlan,
  windingPlan,
  type Follows,
} from '../geometry';

const names = (parts: Id[], name: string | undefined) => (parts.length === 1 ? `“${name}”` : `${parts.length} parts`);

const partsArgs = Joi.object({ parts: idsSchema.required() });

function editPrimitives(kit: Kit, parts: Id[], edit: (primitive: Primitive) => Primitive): void {
  parts.forEach((id) => partOf(kit, id));
  editMeshesOf(kit, parts, (mesh): Mesh => ({
    ...mesh,
    primitives: mesh.primitives.map(edit).filter((primitive) => primitive.indices.count > 0),
  }));
}

/** Computes normals anew; edges sharper than the angle (degrees) stay sharp. */
export const recomputePartNormals = defineOperation<{ parts: Id[]; angleDegrees: number }>({
  id: 'shape.recompute-normals',
  title: (kit, { parts }) => `Compute the normals of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: Joi.object({ parts: idsSchema.required(), angleDegrees: Joi.number().min(0).max(180).required() }),
  change(kit, { parts, angleDegrees }, blobs) {
    editPrimitives(kit, parts, (primitive) => recomputeNormals(primitive, angleDegrees, blobs));
  },
});

/** Drops triangles with no area: nothing that is drawn changes. */
export const dropDegenerates = defineOperation<{ parts: Id[] }>({
  id: 'shape.drop-degenerates',
  title: (kit, { parts }) => `Drop the flat triangles of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: partsArgs,
  change(kit, { parts }, blobs) {
    editPrimitives(kit, parts, (primitive) => dropTriangles(primitive, degenerateTriangles(primitive, blobs), blobs));
  },
});

/** Drops vertices that no triangle uses: nothing that is drawn changes. */
export const dropUnusedVertices = defineOperation<{ parts: Id[] }>({
  id: 'shape.drop-unused-vertices',
  title: (kit, { parts }) => `Drop the unused vertices of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: partsArgs,
  change(kit, { parts }, blobs) {
    editPrimitives(kit, parts, (primitive) => dropUnused(primitive, blobs));
  },
});

/** Degrees between faces beyond which an edge stays sharp, where normals have to be computed. */
const SHARP = 40;

/**
 * Brings windings and normals together: of a closed solid its volume decides which side is outside, of an open piece what can be seen, and
 * normals follow.
 */
export const turnPartWindings = defineOperation<{ parts: Id[]; unclear?: Follows }>({
  id: 'shape.turn-windings',
  title: (kit, { parts }) => `Turn the windings of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: Joi.object({ parts: idsSchema.required(), unclear: Joi.valid(...FOLLOWS) }),
  change(kit, { parts, unclear = 'normals' }, blobs) {
    parts.forEach((id) => partOf(kit, id));
    editMeshesOf(kit, parts, (mesh) => turnByPlan(mesh, windingPlan(mesh, blobs, unclear), SHARP, blobs));
  },
});

/** Keeps so many UV sets, from the first on. */
export const dropUvSets = defineOperation<{ parts: Id[]; keep: number }>({
  id: 'shape.drop-uv-sets',
  title: (kit, { parts, keep }) => `Keep ${keep} UV ${keep === 1 ? 'set' : 'sets'} of ${names(parts, kit.parts[parts[0]]?.name)}`,
  args: Joi.object({ parts: idsSchema.required(), keep: Joi.number().integer().min(0).max(16).required() }),
  change(kit, { parts, keep }) {
    const kept = ([semantic]: [string, Accessor]) => !semantic.startsWith('TEXCOORD_') || Number(semantic.slice(9)) < keep;
    editPrimitives(kit, parts, (primitive) => ({
      ...primitive,
      attributes: Object.fromEntries(Object.entries(primitive.attributes).filter(kept)),
    }));
  },
});
