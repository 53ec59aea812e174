import Joi from 'joi';
import { defineOperation, idSchema, jointsOf, partOf, type Id, type Kit } from '../document';
import { compareSkeletons, type ReferenceJoint } from './compare-skeletons';

/**
 * The names that a kit's joints would have in another skeleton, for those that have others (see `compareSkeletons`).
 *
 * @returns by part; none of them is another part's name already
 */
export function namesIn(kit: Kit, reference: readonly ReferenceJoint[]): Record<Id, string> {
  const used = new Set(Object.values(kit.parts).map(({ name }) => name));
  const rows = compareSkeletons(kit, reference).filter(({ wanted, joint }) => joint !== null && wanted !== null && !used.has(wanted));
  return Object.fromEntries(rows.map(({ wanted, joint }) => [joint!, wanted!]));
}

/** Calls parts by the names of a skeleton's joints; one that is no joint yet becomes one. Nothing moves. */
export const nameJoints = defineOperation<{ names: Record<Id, string> }>({
  id: 'rig.name-joints',
  title: (kit, { names }) => {
    const ids = Object.keys(names);
    return ids.length === 1 ? `Take “${kit.parts[ids[0]]?.name}” for the joint “${names[ids[0]]}”` : `Name ${ids.length} joints`;
  },
  args: Joi.object({ names: Joi.object().pattern(idSchema, Joi.string().trim().min(1).max(200)).min(1).required() }),
  change(kit, { names }) {
    const joints = jointsOf(kit);
    for (const [id, name] of Object.entries(names)) {
      const part = partOf(kit, id);
      part.name = name;
      if (!joints.has(id)) part.role ??= 'joint';
    }
  },
});
