import { BODY_MOTIONS } from './body-motions';
import { CREATURE_MOTIONS } from './creature-motions';
import { plainName } from '../plain-name';
import type { LibraryMotion } from './library-motion';
import type { JointRoles } from './motion-role';

/** Every motion that ships. */
export const LIBRARY: LibraryMotion[] = [...BODY_MOTIONS, ...CREATURE_MOTIONS];

/** Whether the joints that a motion of the library needs are known. */
export function fitsOn({ skeleton }: LibraryMotion, roles: JointRoles): boolean {
  if (skeleton === 'fins') return roles.fin_root_l !== undefined;
  if (skeleton === 'body') return (roles.hips ?? roles.chest) !== undefined && roles.thigh_l !== undefined;
  return roles.hind_upper_l !== undefined;
}

/** The motion of the library that a clip's name asks for, on a body that has its joints; none where there is none. */
export function libraryMotionFor(name: string, roles: JointRoles): LibraryMotion | undefined {
  const plain = plainName(name);
  return LIBRARY.find((motion) => plainName(motion.id) === plain && fitsOn(motion, roles));
}

export { MOTION_SKELETONS, type LibraryMotion, type MotionSkeleton } from './library-motion';
export { otherSide, rolesByName, rolesOf, SIDED_ROLES, twinsOf, type JointRoles, type MotionRole, type SidedRole } from './motion-role';
export { sayMotionRoles } from './say-roles';
export { legsOf, type Leg } from './legs';
export { adjustMotion } from './adjust-motion';
export { AS_IT_IS, isAsItIs, MotionFitError, type FitChoices } from './fit-choices';
export { plantedFeet, plantedSpans, type Planted } from './planted-feet';
export { fittedMotion } from './fitted-motion';
export { matchedMotion, plantedHere, takenMotion, type TakenMotion } from './taken-motion';
export { missingRoles } from './motion-solver';
export { plantedIn, putMotion } from './put-motion';
export * from './hand-contacts';
