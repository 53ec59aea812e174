import Joi from 'joi';
import {
  defineOperation,
  freeName,
  idSchema,
  idsSchema,
  newId,
  nextOrder,
  partOf,
  putNewPart,
  partsInOrder,
  subtreeOf,
  type Axis,
  type Blobs,
  type Id,
  type Kit,
  type Quat,
  type Vec3,
} from '../document';
import {
  affineMatrix,
  conformQuat,
  decomposeMatrix,
  invertMatrix,
  multiplyMatrices,
  restWorlds,
  transformMesh,
  transformPoint,
  type Mat3,
  type Mat4,
} from '../geometry';
import { movePivotBy } from './move-pivot';
import { topmost } from './repeat';
import { ShearError, SkinnedPartError } from './shape-errors';

/** Turns one axis over. */
function flip(axis: Axis): Mat3 {
  const turned: Mat3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  turned[4 * axis] = -1;
  return turned;
}

/** The reflection in the plane that stands across an axis of the world at a distance from the origin, metres. */
function reflection(axis: Axis, at: number): Mat4 {
  const move: Vec3 = [0, 0, 0];
  move[axis] = 2 * at;
  return affineMatrix(flip(axis), move);
}

/**
 * Makes the twins of parts, with all that hangs below them, on the other side of a plane across an axis of the world. No scale is turned
 * over:
 * with M the reflection and F the flip of the same own axis, a twin's world is M·W·F and its geometry F·v, so that windings, normals and
 * tangents are right (Lengyel 2019); below the topmost, local placements become F·L·F. Roles are kept; motion and bindings stay with the
 * original. Meshes that were shared are shared by the twins.
 *
 * @param names Of the twins, by the id of the original; otherwise numbered on.
 * @throws {SkinnedPartError} for parts that joints deform
 */
export const mirrorParts = defineOperation<{ parts: Id[]; axis: Axis; at: number; names?: Record<Id, string> }>({
  id: 'shape.mirror-parts',
  title: (kit, { parts, axis }) =>
    `Mirror ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} across ${'xyz'[axis]}`,
  args: Joi.object({
    parts: idsSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    at: Joi.number().required(),
    names: Joi.object().pattern(idSchema, Joi.string().trim().min(1).max(200)),
  }),
  change(kit, { parts, axis, at, names = {} }, blobs) {
    parts.forEach((id) => partOf(kit, id));
    const worlds = restWorlds(kit);
    const taken = new Set(Object.values(kit.parts).map((part) => part.name));
    const meshes = new Map<Id, Id>();
    for (const id of topmost(kit, parts)) mirrorBranch({ kit, blobs, axis, at, names, worlds, taken, meshes }, id);
  },
});

interface Mirroring {
  kit: Kit;
  blobs: Blobs;
  axis: Axis;
  at: number;
  names: Record<Id, string>;
  /** Ids of twins that are told; the others are new. */
  ids?: Record<Id, Id>;
  worlds: ReadonlyMap<Id, Mat4>;
  taken: Set<string>;
  meshes: Map<Id, Id>;
}

/** Mirrors a branch; see `mirrorParts`. Writes to the draft. */
export function mirrorBranch({ kit, blobs, axis, at, names, ids = {}, worlds, taken, meshes }: Mirroring, top: Id): void {
  const F = flip(axis);
  const branch = subtreeOf(kit, top);
  const fresh = new Map([...branch].map((id) => [id, ids[id] ?? newId()]));
  for (const part of partsInOrder(kit)) {
    if (!branch.has(part.id)) continue;
    if (part.skin !== null) throw new SkinnedPartError(part.name);
    const name = freeName(names[part.id] ?? part.name.replace(/_\d+$/, ''), taken);
    taken.add(name);
    const twin = {
      ...part,
      id: fresh.get(part.id)!,
      name,
      scale: [...part.scale] as Vec3,
      translation: flipped(part.translation, axis),
      rotation: conformQuat(part.rotation, F),
    };
    delete twin.from;
    if (part.tail) twin.tail = flipped(part.tail, axis);
    if (part.id === top) Object.assign(twin, topPlacement(kit, top, axis, at, worlds), { order: nextOrder(kit, part.parent) });
    else twin.parent = fresh.get(part.parent!)!;
    if (part.mesh !== null) {
      let mesh = meshes.get(part.mesh);
      if (mesh === undefined) {
        meshes.set(part.mesh, (mesh = newId()));
        kit.meshes[mesh] = { ...transformMesh(kit.meshes[part.mesh], F, [0, 0, 0], blobs), id: mesh };
      }
      twin.mesh = mesh;
    }
    putNewPart(kit, twin);
  }
}

const flipped = (v: Vec3, axis: Axis): Vec3 => v.map((value, i) => (i === axis ? -value + 0 : value)) as Vec3;

function topPlacement(
  kit: Kit,
  id: Id,
  axis: Axis,
  at: number,
  worlds: ReadonlyMap<Id, Mat4>,
): { translation: Vec3; rotation: Quat; scale: Vec3 } {
  const part = kit.parts[id];
  const inverse = part.parent === null ? null : invertMatrix(worlds.get(part.parent)!);
  if (part.parent !== null && !inverse) throw new ShearError([part.name], 'Mirroring it');
  const world = multiplyMatrices(multiplyMatrices(reflection(axis, at), worlds.get(id)!), affineMatrix(flip(axis)));
  const { translation, rotation, scale, shear } = decomposeMatrix(inverse ? multiplyMatrices(inverse, world) : world);
  if (shear > 1e-6) throw new ShearError([part.name], 'Mirroring it');
  return {
    translation,
    rotation,
    scale: scale.map((value, i) => (Math.abs(value - part.scale[i]) < 1e-9 ? part.scale[i] : value)) as Vec3,
  };
}

/** Puts a twin's pivot where that of a part is, mirrored. Nothing that is drawn moves. */
export const pivotToTwin = defineOperation<{ from: Id; to: Id; axis: Axis; at: number }>({
  id: 'shape.pivot-to-twin',
  title: (kit, { from, to }) => `Pivot of “${kit.parts[to]?.name}” as that of “${kit.parts[from]?.name}”, mirrored`,
  args: Joi.object({
    from: idSchema.required(),
    to: idSchema.required(),
    axis: Joi.valid(0, 1, 2).required(),
    at: Joi.number().required(),
  }),
  change(kit, { from, to, axis, at }, blobs) {
    partOf(kit, from);
    const part = partOf(kit, to);
    const worlds = restWorlds(kit);
    const world = worlds.get(from)!;
    const inverse = invertMatrix(worlds.get(to)!);
    if (!inverse) throw new ShearError([part.name], 'Moving its pivot');
    movePivotBy(kit, to, transformPoint(inverse, transformPoint(reflection(axis, at), [world[12], world[13], world[14]])), blobs);
  },
});
