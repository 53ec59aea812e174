import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, partOf, ROLES, type Id, type Role } from '../document';

/** Gives parts other names. */
export const renameParts = defineOperation<{ names: Record<Id, string> }>({
  id: 'shape.rename',
  title: (kit, { names }) => {
    const ids = Object.keys(names);
    return ids.length === 1 ? `Rename “${kit.parts[ids[0]]?.name}” to “${names[ids[0]]}”` : `Rename ${ids.length} parts`;
  },
  args: Joi.object({ names: Joi.object().pattern(idSchema, Joi.string().trim().min(1).max(200)).min(1).required() }),
  change(kit, { names }) {
    for (const [id, name] of Object.entries(names)) partOf(kit, id).name = name;
  },
});

/** Says what parts are for, or lets go of it (null). */
export const setRole = defineOperation<{ parts: Id[]; role: Role | null }>({
  id: 'shape.set-role',
  title: (kit, { parts, role }) =>
    `Role of ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}: ${role ?? 'none'}`,
  args: Joi.object({ parts: idsSchema.required(), role: Joi.valid(...ROLES, null).required() }),
  change(kit, { parts, role }) {
    for (const id of parts) partOf(kit, id).role = role;
  },
});

/** Hides parts on the bench, or shows them; packages have them all the same. */
export const setHidden = defineOperation<{ parts: Id[]; hidden: boolean }>({
  id: 'shape.set-hidden',
  title: (kit, { parts, hidden }) =>
    `${hidden ? 'Hide' : 'Show'} ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({ parts: idsSchema.required(), hidden: Joi.boolean().required() }),
  change(kit, { parts, hidden }) {
    for (const id of parts) partOf(kit, id).hidden = hidden;
  },
});
