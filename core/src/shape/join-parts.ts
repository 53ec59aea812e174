import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  handOn,
  idSchema,
  idsSchema,
  KitError,
  newId,
  partOf,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type Part,
} from '../document';
import {
  invertMatrix,
  takeOutParts,
  mergePrimitives,
  multiplyMatrices,
  restWorlds,
  transformMesh,
  transformPoint,
  type Mat4,
} from '../geometry';
import { hangBelow } from './reparent';
import { ShearError } from './shape-errors';

/** A part that can't be joined with others, and why. */
export class NotJoinedError extends KitError {
  constructor(name: string, why: string) {
    super('not-joined', `“${name}” is not joined: ${why}.`, name);
  }
}

/**
 * Joins the meshes of parts into that of one of them, whose name, pivot and place are kept. Nothing that is drawn moves; what the others
 * carried hangs below the one that is kept. UVs, normals, weights, materials and morph targets go along.
 *
 * @throws {NotJoinedError} for a part that moves by itself, or follows other joints than the one that is kept: its motion would be lost
 */
export const joinParts = defineOperation<{ into: Id; parts: Id[] }>({
  id: 'shape.join-parts',
  title: (kit, { into, parts }) =>
    `Join ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} into “${kit.parts[into]?.name}”`,
  args: Joi.object({ into: idSchema.required(), parts: idsSchema.unique().required() }),
  change(kit, { into, parts }, blobs) {
    const kept = partOf(kit, into);
    const others = parts.filter((id) => id !== into).map((id) => partOf(kit, id));
    if (others.length === 0) throw new NotJoinedError(kept.name, 'there is nothing else to join it with. Choose two parts or more');
    for (const other of others) mayJoin(kit, kept, other);
    const worlds = restWorlds(kit);
    const inverse = invertMatrix(worlds.get(into)!);
    if (!inverse) throw new ShearError([kept.name], 'Joining into it');
    const meshes = [kept, ...others].flatMap((part) =>
      part.mesh === null ? [] : [inAxesOf(kit.meshes[part.mesh], part, multiplyMatrices(inverse, worlds.get(part.id)!), blobs)],
    );
    if (meshes.length === 0) throw new NotJoinedError(kept.name, 'none of the chosen parts has a mesh');
    const strokes = meshes.flatMap((mesh) => mesh.strokes ?? []);
    const mesh: Mesh = {
      ...meshes[0],
      id: newId(),
      primitives: mergePrimitives(
        meshes.flatMap(({ primitives }) => primitives),
        blobs,
      ),
    };
    if (strokes.length > 0) mesh.strokes = strokes;
    delete mesh.levels;
    kit.meshes[mesh.id] = mesh;
    kept.mesh = mesh.id;
    for (const other of others) {
      const matrix = multiplyMatrices(inverse, worlds.get(other.id)!);
      handOn(kit, other.id, into, (at) => transformPoint(matrix, at));
    }
    takeOut(kit, others, into);
  },
});

function mayJoin(kit: Kit, kept: Part, other: Part): void {
  for (const clip of Object.values(kit.clips)) {
    if (clip.tracks.some((track) => track.part === other.id))
      throw new NotJoinedError(
        other.name,
        `it moves by itself in “${clip.name}”. Delete its tracks first, or keep it as the one that the others are joined into`,
      );
  }
  if (Object.values(kit.bindings).some(({ part }) => part === other.id))
    throw new NotJoinedError(other.name, 'it follows a variable. Unbind it first');
  if (Object.values(kit.skins).some(({ joints }) => joints.includes(other.id)))
    throw new NotJoinedError(other.name, 'it is a joint, and a skin follows it');
  for (let up = kept.parent; up !== null; up = kit.parts[up].parent)
    if (up === other.id) throw new NotJoinedError(other.name, `it carries “${kept.name}”. Join into “${other.name}” instead`);
  if (other.mesh === null) return;
  if (other.skin !== kept.skin)
    throw new NotJoinedError(
      other.name,
      kept.skin === null
        ? 'joints deform it, and they do not deform the one that is kept'
        : `it does not follow the joints of “${kept.name}”. Give it weights first`,
    );
  const targets = (part: Part) => (part.mesh === null ? 0 : (kit.meshes[part.mesh].targets?.length ?? 0));
  if (kept.mesh !== null && targets(other) !== targets(kept))
    throw new NotJoinedError(other.name, 'its morph targets are not those of the one that is kept');
}

/** Skinned vertices follow their joints wherever their part stands, so they stay as they are. */
function inAxesOf(mesh: Mesh, part: Part, matrix: Mat4, blobs: Blobs): Mesh {
  if (part.skin !== null || isIdentity(matrix)) return mesh;
  const linear = [0, 1, 2, 4, 5, 6, 8, 9, 10].map((i) => matrix[i]);
  return transformMesh(mesh, linear, [matrix[12], matrix[13], matrix[14]], blobs);
}

const isIdentity = (m: Mat4) => m.every((value, i) => Math.abs(value - (i % 5 === 0 ? 1 : 0)) < 1e-12);

function takeOut(kit: Kit, parts: Part[], into: Id): void {
  const gone = new Set(parts.map(({ id }) => id));
  for (const { id } of parts) {
    const carried = childrenOf(kit, id).filter((child) => !gone.has(child.id) && child.id !== into);
    if (carried.length > 0)
      hangBelow(
        kit,
        carried.map((child) => child.id),
        into,
        'world',
      );
  }
  takeOutParts(kit, gone);
}
