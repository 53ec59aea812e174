import Joi from 'joi';
import { defineOperation, idsSchema, nameList, partOf, type Blobs, type Id, type Kit } from '../document';
import { restWorlds } from '../geometry';
import { headOf, jointsInOrder, placeHead, placingJoints } from './rig-tree';
import { outwardDistances } from './geodesic';
import { keepBound, surfaceOf } from './skin-field';
import { CORE, nearestSolid, OUTSIDE, voxelAt, voxelCentre, voxelSolid, type VoxelSolid } from './voxel-solid';

/** Voxels along the longest side: fine enough to tell in from out by a hundredth of the body. */
const RESOLUTION = 64;

interface Body {
  solid: VoxelSolid;
  outward: Int32Array;
}

const bodies = new Map<string, Body>();
/** So many are kept: a check is asked again at every change of the kit. */
const KEPT = 4;

/** The solid of all skinned parts at rest; the same for the same numbers. */
function skinnedBody(kit: Kit, blobs: Blobs): Body | null {
  const parts = Object.values(kit.parts).filter((part) => part.skin !== null && part.mesh !== null);
  if (parts.length === 0) return null;
  const key = parts
    .flatMap((part) => [
      ...kit.meshes[part.mesh!].primitives.map(({ attributes, indices }) => `${attributes.POSITION?.blob} ${indices.blob}`),
      kit.skins[part.skin!].inverseBindMatrices.blob,
    ])
    .join();
  let body = bodies.get(key);
  if (!body) {
    const { positions, indices } = surfaceOf(
      kit,
      parts.map((part) => part.id),
      blobs,
    );
    const solid = voxelSolid(positions, indices, RESOLUTION);
    bodies.set(key, (body = { solid, outward: outwardDistances(solid) }));
    if (bodies.size > KEPT) bodies.delete(bodies.keys().next().value!);
  }
  return body;
}

/**
 * Joints of skins whose head stands outside of what is skinned, and how far from it, metres. One that places the whole may stand anywhere.
 */
export function jointsOutside(kit: Kit, blobs: Blobs): { joint: Id; offMetres: number }[] {
  const body = skinnedBody(kit, blobs);
  if (!body) return [];
  const { solid, outward } = body;
  const skinned = new Set(Object.values(kit.skins).flatMap((skin) => skin.joints));
  const joints = jointsInOrder(kit).filter((id) => skinned.has(id));
  const placing = placingJoints(kit, joints);
  const worlds = restWorlds(kit);
  return joints.flatMap((joint) => {
    if (placing.has(joint)) return [];
    const [x, y, z] = headOf(worlds, joint);
    const voxel = voxelAt(solid, x, y, z);
    const centre = voxelCentre(solid, voxel);
    // Beyond the grid the way to its border comes on top. Within a voxel of the skin counts as in it.
    const beyond = Math.hypot(...[x, y, z].map((value, axis) => Math.max(0, Math.abs(value - centre[axis]) - solid.cell / 2)));
    const off = beyond + (outward[voxel] * solid.cell) / 10;
    return off <= solid.cell ? [] : [{ joint, offMetres: off }];
  });
}

/** Moves the heads of joints to the nearest place well inside of what is skinned. The mesh and the joints below stay. */
export const pullInside = defineOperation<{ joints: Id[] }>({
  id: 'rig.pull-inside',
  title: (kit, { joints }) => `Pull ${nameList(joints.map((id) => kit.parts[id]?.name ?? ''))} into the body`,
  args: Joi.object({ joints: idsSchema.required() }),
  change(kit, { joints }, blobs) {
    const solid = skinnedBody(kit, blobs)?.solid;
    if (!solid) return;
    const before = restWorlds(kit);
    for (const id of joints) {
      partOf(kit, id);
      const [x, y, z] = headOf(before, id);
      const core = nearestSolid(solid, x, y, z, (kind) => kind === CORE);
      const at = core >= 0 ? core : nearestSolid(solid, x, y, z, (kind) => kind !== OUTSIDE);
      if (at >= 0) placeHead(kit, id, voxelCentre(solid, at), 'stay');
    }
    keepBound(kit, before, blobs);
  },
});
