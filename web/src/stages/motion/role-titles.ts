import { LIBRARY, missingRoles, otherSide, SIDED_ROLES, type MotionSkeleton, type SidedRole } from '@itchkit/core/motion';

export const SKELETON_TITLES: Record<MotionSkeleton, string> = { body: 'Bodies', 'four-legged': 'Four-legged', fins: 'Fins and wings' };

/** `thigh_l` is a left thigh. */
export function roleTitle(role: SidedRole): string {
  const side = /_([lr])$/.exec(role)?.[1];
  const plain = (side ? role.slice(0, -2) : role).replace(/_/g, ' ');
  return side ? `${side === 'l' ? 'left' : 'right'} ${plain}` : plain;
}

/** What motions of a kind of skeleton move. */
export function rolesFor(skeleton: MotionSkeleton): SidedRole[] {
  const wanted = new Set<SidedRole>([
    skeleton === 'fins' ? 'trunk' : 'hips',
    ...LIBRARY.filter((motion) => motion.skeleton === skeleton).flatMap((motion) => missingRoles(motion, {})),
  ]);
  // A motion that moves one side alone may be wanted for the other one.
  return SIDED_ROLES.filter((role) => wanted.has(role) || wanted.has(otherSide(role)));
}
