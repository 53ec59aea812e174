import Joi from 'joi';
import { defineOperation, idSchema, partOf, subtreeOf, type Axis, type Id, type Kit } from '../document';
import { composeMatrix, decomposeMatrix, invertMatrix, keepPlaceBelow, multiplyMatrices, restWorlds, type Mat4 } from '../geometry';
import { mirrorBranch } from './mirror-parts';
import { copyBranch } from './repeat';

/** Where twins stand: in the mirror across a plane of the world, or as one part stands against another. */
export type TwinPlace = { axis: Axis; at: number } | { from: Id; to: Id };

/** Takes what stands about one part to where it stands as well about another one: turned as that is, and no larger. */
function moveTo(kit: Kit, from: Id, to: Id): Mat4 {
  const worlds = restWorlds(kit);
  const placed = (id: Id) => {
    const { translation, rotation } = decomposeMatrix(worlds.get(partOf(kit, id).id)!);
    return composeMatrix(translation, rotation, [1, 1, 1]);
  };
  return multiplyMatrices(placed(to), invertMatrix(placed(from))!);
}

/**
 * Makes the parts that are missing at another place, each with all below it: mirrored, or the same shapes there. Ids and names of the
 * copies are told, so that more can be said of them in the same step; motion and bindings stay with the originals.
 *
 * @param tops What is copied, and below which part its copy hangs; none below another one.
 * @throws {ShearError} @throws {SkinnedPartError} as mirroring and repeating do
 */
export const twinParts = defineOperation<{
  tops: { part: Id; below: Id | null }[];
  ids: Record<Id, Id>;
  names: Record<Id, string>;
  place: TwinPlace;
}>({
  id: 'shape.twin-parts',
  title: (kit, { tops, place }) =>
    `${'axis' in place ? 'Mirror' : 'Repeat'} ${tops.map(({ part }) => `“${kit.parts[part]?.name}”`).join(', ')}`,
  args: Joi.object({
    tops: Joi.array()
      .items(Joi.object({ part: idSchema.required(), below: idSchema.allow(null).required() }))
      .min(1)
      .unique('part')
      .required(),
    ids: Joi.object().pattern(idSchema, idSchema).required(),
    names: Joi.object().pattern(idSchema, Joi.string().trim().min(1).max(200)).required(),
    place: Joi.alternatives(
      Joi.object({ axis: Joi.valid(0, 1, 2).required(), at: Joi.number().required() }),
      Joi.object({ from: idSchema.required(), to: idSchema.required() }),
    ).required(),
  }),
  change(kit, { tops, ids, names, place }, blobs) {
    for (const { part, below } of tops) {
      partOf(kit, part);
      if (below !== null) partOf(kit, below);
    }
    const worlds = restWorlds(kit);
    const taken = new Set(Object.values(kit.parts).map(({ name }) => name));
    const meshes = new Map<Id, Id>();
    const made = tops.map(({ part, below }) => {
      const branch = [...subtreeOf(kit, part)];
      if ('axis' in place) mirrorBranch({ kit, blobs, ...place, names, ids, worlds, taken, meshes }, part);
      else copyBranch({ kit, move: moveTo(kit, place.from, place.to), worlds, taken, ownMeshes: false, names, ids }, part);
      const top = ids[part] ?? part;
      if (kit.parts[top].parent !== below) keepPlaceBelow(kit, top, below);
      return branch.map((id) => ids[id]).filter((id) => id !== undefined);
    });
    return { parts: made.flat() };
  },
});
