import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  freeName,
  idSchema,
  idsSchema,
  jointsOf,
  KitError,
  newId,
  newPart,
  nextOrder,
  partOf,
  putNewPart,
  ROLES,
  vec3Schema,
  type Id,
  type Kit,
  type Role,
  type Vec3,
} from '../document';
import { invertMatrix, restWorlds, takeOutParts, transformPoint } from '../geometry';
import { hangBelow } from './reparent';
import { ShearError } from './shape-errors';

/**
 * Puts a new part, straight and unscaled within its own parent, above some parts. It takes the place of the first of them in the tree;
 * nothing that is drawn moves.
 *
 * @param at Pivot of the new part, world, metres. @param role Of the new part: a driven one is a carrier, for a variable of its
 * own.
 * @throws {ShearError} where the parent's uneven scale would skew what hangs below the new part
 */
export const insertParent = defineOperation<{ id?: Id; parts: Id[]; name: string; at: Vec3; role?: Role }>({
  id: 'shape.insert-parent',
  title: (_, { name, parts }) => `Insert “${name}” above ${parts.length === 1 ? 'a part' : `${parts.length} parts`}`,
  args: Joi.object({
    id: idSchema,
    parts: idsSchema.required(),
    name: Joi.string().trim().min(1).max(200).required(),
    at: vec3Schema.required(),
    role: Joi.valid(...ROLES),
  }),
  change(kit, { id = newId(), parts, name, at, role = null }) {
    const first = partOf(kit, parts[0]);
    const parent = commonParent(kit, parts);
    const inverse = parent === null ? null : invertMatrix(restWorlds(kit).get(parent)!);
    if (parent !== null && !inverse) throw new ShearError([kit.parts[parent].name], 'Inserting a parent there');
    const taken = new Set(Object.values(kit.parts).map((part) => part.name));
    const order = first.parent === parent ? first.order : nextOrder(kit, parent);
    const translation = inverse ? transformPoint(inverse, at) : at;
    putNewPart(kit, newPart({ id, name: freeName(name, taken), parent, role, order, translation }));
    hangBelow(kit, parts, id, 'world');
    return { parts: [id] };
  },
});

/** The parent of the first part that stands above all of them. */
function commonParent(kit: Kit, parts: readonly Id[]): Id | null {
  const above = (id: Id): Id[] => {
    const way: Id[] = [];
    for (let up = kit.parts[id].parent; up !== null; up = kit.parts[up].parent) way.push(up);
    return way;
  };
  const others = parts.slice(1).map((id) => new Set(above(partOf(kit, id).id)));
  return above(parts[0]).find((id) => others.every((set) => set.has(id)) && !parts.includes(id)) ?? null;
}

/** A part that can't be taken out of the middle, and why. */
export class NotDissolvedError extends KitError {
  constructor(name: string, why: string) {
    super('not-dissolved', `“${name}” can't be dissolved: ${why}.`, name);
  }
}

/**
 * Takes parents out and hangs what they carry one level up; nothing that is drawn moves.
 *
 * @throws {NotDissolvedError} where a part is drawn, moves, or holds a skin: something would be lost
 */
export const dissolveParents = defineOperation<{ parts: Id[] }>({
  id: 'shape.dissolve-parents',
  title: (kit, { parts }) => `Dissolve ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parents`}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }) {
    const joints = jointsOf(kit);
    const carried: Id[] = [];
    for (const id of parts) {
      const part = partOf(kit, id);
      if (part.mesh !== null)
        throw new NotDissolvedError(part.name, 'it is drawn itself. Delete it, or give its mesh to another part first');
      if (
        Object.values(kit.clips).some((clip) => clip.tracks.some((track) => track.part === id)) ||
        Object.values(kit.bindings).some((binding) => binding.part === id)
      )
        throw new NotDissolvedError(part.name, 'it moves, and what it carries would stand still. Take its motion off first');
      if (joints.has(id) && Object.values(kit.skins).some((skin) => skin.joints.includes(id)))
        throw new NotDissolvedError(part.name, 'a skin is held by it. Give its weights to another joint first');
      const children = childrenOf(kit, id).map((child) => child.id);
      carried.push(...children);
      if (children.length > 0) hangBelow(kit, children, part.parent, 'world', part.order);
      takeOutParts(kit, new Set([id]));
    }
    return { parts: carried.filter((id) => kit.parts[id]) };
  },
});
