import Joi from 'joi';
import { defineOperation, idSchema, partOf, type Id } from '../../document';
import { SIDED_ROLES } from './motion-role';

/**
 * Says which joint is for what in motions, where names do not: for motions of the library, for fitting, and for what is on the other side.
 *
 * @param roles All that is said; of roles that are not in it their names tell. Null says that there is none.
 */
export const sayMotionRoles = defineOperation<{ roles: Record<string, Id | null> }>({
  id: 'motion.say-roles',
  title: () => 'Say what joints are for',
  args: Joi.object({
    roles: Joi.object()
      .pattern(Joi.valid(...SIDED_ROLES), idSchema.allow(null))
      .required(),
  }),
  change(kit, { roles }) {
    for (const id of Object.values(roles)) if (id !== null) partOf(kit, id);
    if (Object.keys(roles).length > 0) kit.motionRoles = roles;
    else delete kit.motionRoles;
  },
});
