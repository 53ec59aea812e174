import Joi from 'joi';
import {
  defineOperation,
  idsSchema,
  KitError,
  partOf,
  putArray,
  readArray,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type Primitive,
} from '../document';
import { computeTangents, editMeshesOf, facesToTurn, flipWinding, recomputeNormals, weldPrimitive, wholeMesh } from '../geometry';

const named = (kit: Kit, parts: Id[]) => (parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`);

function editMeshes(kit: Kit, parts: Id[], edit: (mesh: Mesh) => Mesh): void {
  parts.forEach((id) => partOf(kit, id));
  editMeshesOf(kit, parts, edit);
}

const each = (mesh: Mesh, edit: (primitive: Primitive) => Primitive): Mesh => ({
  ...mesh,
  primitives: mesh.primitives.map(edit).filter(({ indices }) => indices.count > 0),
});

/** Turns every face of parts round, and its normals. */
export const flipFaces = defineOperation<{ parts: Id[] }>({
  id: 'shape.flip-faces',
  title: (kit, { parts }) => `Turn ${named(kit, parts)} inside out`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    editMeshes(kit, parts, (mesh) => each(mesh, (primitive) => flipped(primitive, blobs)));
  },
});

function flipped(primitive: Primitive, blobs: Blobs): Primitive {
  const { NORMAL, TANGENT, ...others } = primitive.attributes;
  const attributes = { ...others };
  if (NORMAL)
    attributes.NORMAL = putArray(
      blobs,
      readArray<Float32Array>(blobs, NORMAL).map((value) => -value + 0),
      3,
    );
  // With the normal turned over, the same bitangent needs the other sign.
  if (TANGENT)
    attributes.TANGENT = putArray(
      blobs,
      readArray<Float32Array>(blobs, TANGENT).map((value, i) => (i % 4 === 3 ? -value : value)),
      4,
    );
  return { ...primitive, attributes, indices: flipWinding(blobs, primitive.indices) };
}

/** Lets neighbouring faces run the same way, outsides outward, and works the normals out anew where anything was turned. */
export const unifyWindings = defineOperation<{ parts: Id[]; angleDegrees: number }>({
  id: 'shape.unify-windings',
  title: (kit, { parts }) => `Unify the windings of ${named(kit, parts)}`,
  args: Joi.object({ parts: idsSchema.required(), angleDegrees: Joi.number().min(0).max(180).required() }),
  change(kit, { parts, angleDegrees }, blobs) {
    editMeshes(kit, parts, (mesh) => {
      const turn = facesToTurn(mesh, blobs);
      if (!turn.includes(1)) return mesh;
      const { starts } = wholeMesh(mesh, blobs);
      return {
        ...mesh,
        primitives: mesh.primitives.map((primitive, p) => {
          const own = readArray<Uint32Array>(blobs, primitive.indices).slice();
          for (let face = starts[p]; face < starts[p + 1]; face++) {
            const at = 3 * (face - starts[p]);
            if (turn[face]) [own[at + 1], own[at + 2]] = [own[at + 2], own[at + 1]];
          }
          return recomputeNormals({ ...primitive, indices: putArray(blobs, own, 1) }, angleDegrees, blobs);
        }),
      };
    });
  },
});

/** Welds vertices that stand within a distance and are alike in all else. */
export const weldParts = defineOperation<{ parts: Id[]; distanceMm: number }>({
  id: 'shape.weld',
  title: (kit, { parts }) => `Weld ${named(kit, parts)}`,
  args: Joi.object({ parts: idsSchema.required(), distanceMm: Joi.number().min(0).max(1000).required() }),
  change(kit, { parts, distanceMm }, blobs) {
    editMeshes(kit, parts, (mesh) => each(mesh, (primitive) => weldPrimitive(primitive, distanceMm / 1000, blobs)));
  },
});

/** Tangents can't be computed without normals and UVs. */
export class NoTangentsError extends KitError {
  constructor(name: string) {
    super(
      'no-tangents',
      `No tangents can be worked out for “${name}”: a normal map needs normals and UVs. Compute its normals, and give it UVs where it was made.`,
      name,
    );
  }
}

/** Works out tangents where a normal map is used. */
export const tangentsOfParts = defineOperation<{ parts: Id[] }>({
  id: 'shape.tangents',
  title: (kit, { parts }) => `Compute the tangents of ${named(kit, parts)}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    let made = 0;
    editMeshes(kit, parts, (mesh) =>
      each(mesh, (primitive) => {
        const slot = primitive.material === null ? null : kit.materials[primitive.material]?.normalTexture;
        if (!slot) return primitive;
        const done = computeTangents(primitive, slot.texCoord, blobs);
        if (done !== primitive) made++;
        return done;
      }),
    );
    if (made === 0) throw new NoTangentsError(kit.parts[parts[0]].name);
  },
});
