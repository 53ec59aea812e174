import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  idSchema,
  idsSchema,
  KitError,
  moveWhatIsOn,
  partOf,
  vec3Schema,
  type Blobs,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import {
  affineMatrix,
  composeMatrix,
  invertMatrix,
  isEmptyBounds,
  multiplyMatrices,
  ownBounds,
  readBindMatrices,
  restWorlds,
  transformPartMesh,
  transformPoint,
  writeBindMatrices,
  type Mat4,
} from '../geometry';
import { SkinnedPartError } from './shape-errors';

/**
 * Moves a part's pivot without moving anything else at rest.
 *
 * With d in the part's own axes: translation += R·S·d, geometry −= d, children's translations −= d. Where the part is a
 * joint, its inverse bind matrix is moved along. Offset tracks are kept.
 *
 * @param to New pivot in the part's own axes, metres.
 * @throws {SkinnedPartError} if the part's mesh is deformed by joints; its pivot has no meaning there.
 */
export function movePivotBy(kit: Kit, id: Id, to: Vec3, blobs: Blobs): void {
  const part = partOf(kit, id);
  if (part.skin !== null) throw new SkinnedPartError(part.name);
  if (to.every((value) => value === 0)) return;
  part.translation = transformPoint(composeMatrix(part.translation, part.rotation, part.scale), to);
  const back = to.map((value) => -value) as Vec3;
  transformPartMesh(kit, id, [1, 0, 0, 0, 1, 0, 0, 0, 1], back, blobs);
  moveWhatIsOn(kit, id, (at) => at.map((value, axis) => value - to[axis]) as Vec3);
  for (const child of childrenOf(kit, id)) child.translation = child.translation.map((value, axis) => value - to[axis]) as Vec3;
  premultiplyBinds(kit, id, affineMatrix([1, 0, 0, 0, 1, 0, 0, 0, 1], back), blobs);
}

/** B' = K·B wherever the part is a joint. */
export function premultiplyBinds(kit: Kit, joint: Id, by: Mat4, blobs: Blobs): void {
  for (const skin of Object.values(kit.skins)) {
    const at = skin.joints.indexOf(joint);
    if (at < 0) continue;
    const matrices = readBindMatrices(skin, blobs);
    matrices[at] = multiplyMatrices(by, matrices[at]);
    skin.inverseBindMatrices = writeBindMatrices(matrices, blobs);
  }
}

/**
 * Where a part's pivot stands at rest in the axes of another part, or of the world where that is null; metres, to 10⁻⁶.
 *
 * @throws {PartMissingError} where the part is gone
 */
export function pivotWithin(kit: Kit, id: Id, axes: Id | null): Vec3 {
  const own = restWorlds(kit).get(partOf(kit, id).id)!;
  const at: Vec3 = [own[12], own[13], own[14]];
  return roundedTo(6, axes === null ? at : transformPoint(invertMatrix(restWorlds(kit).get(axes)!)!, at));
}

/** A point in the axes of another part (or of the world), metres, as `movePivot` takes it: in the part's own axes, O⁻¹·A·p. */
export function pivotFromWithin(kit: Kit, id: Id, axes: Id | null, point: Vec3): Vec3 {
  const toOwn = invertMatrix(restWorlds(kit).get(partOf(kit, id).id)!)!;
  return roundedTo(9, transformPoint(axes === null ? toOwn : multiplyMatrices(toOwn, restWorlds(kit).get(axes)!), point));
}

const roundedTo = (digits: number, at: Vec3) => at.map((value) => Number(value.toFixed(digits)) + 0) as Vec3;

/** Moves a pivot to a point in the part's own axes, metres; nothing else moves. */
export const movePivot = defineOperation<{ part: Id; to: Vec3 }>({
  id: 'shape.move-pivot',
  title: (kit, { part }) => `Move the pivot of “${kit.parts[part]?.name}”`,
  args: Joi.object({ part: idSchema.required(), to: vec3Schema.required() }),
  change(kit, { part, to }, blobs) {
    movePivotBy(kit, part, to, blobs);
  },
});

/** A part without a mesh has no bounds. */
export class NoMeshError extends KitError {
  constructor(name: string) {
    super('no-mesh', `“${name}” has no mesh, so it has no bounds to take a pivot from. Type the pivot instead.`, name);
  }
}

/** The point of a part's own bounds named by −1, 0 or 1 an axis, in its own axes, metres. */
export function boundsAnchor(kit: Kit, id: Id, anchor: Vec3, blobs: Blobs): Vec3 {
  const part = partOf(kit, id);
  const bounds = ownBounds(kit, blobs, part);
  if (isEmptyBounds(bounds)) throw new NoMeshError(part.name);
  return anchor.map((side, axis) => (bounds.min[axis] + bounds.max[axis]) / 2 + (side * (bounds.max[axis] - bounds.min[axis])) / 2) as Vec3;
}

/** Each part's pivot goes to an anchor of its own bounds. */
export const pivotToAnchor = defineOperation<{ parts: Id[]; anchor: Vec3 }>({
  id: 'shape.pivot-to-anchor',
  title: (kit, { parts }) =>
    `Pivot of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} to a bounds anchor`,
  args: Joi.object({
    parts: idsSchema.required(),
    anchor: Joi.array()
      .items(Joi.valid(-1, 0, 1))
      .length(3)
      .required(),
  }),
  change(kit, { parts, anchor }, blobs) {
    for (const id of parts) movePivotBy(kit, id, boundsAnchor(kit, id, anchor, blobs), blobs);
  },
});
