import { BODY_MOTIONS } from './body-motions';
import { CREATURE_MOTIONS } from './creature-motions';
import type { LibraryMotion } from './library-motion';

/** Every motion that ships. */
export const LIBRARY: LibraryMotion[] = [...BODY_MOTIONS, ...CREATURE_MOTIONS];
export { MOTION_SKELETONS, type LibraryMotion, type MotionSkeleton } from './library-motion';
export { otherSide, rolesByName, rolesOf, SIDED_ROLES, twinsOf, type JointRoles, type MotionRole, type SidedRole } from './motion-role';
export { sayMotionRoles } from './say-roles';
export { legsOf, type Leg } from './legs';
export { adjustMotion } from './adjust-motion';
export { AS_IT_IS, isAsItIs, MotionFitError, type FitChoices } from './fit-choices';
export { plantedFeet, plantedSpans, type Planted } from './planted-feet';
export { fittedMotion } from './fitted-motion';
export { missingRoles } from './motion-solver';
export { plantedIn, putMotion } from './put-motion';
export * from './hand-contacts';
