import { BODY_MOTIONS } from './body-motions';
import { CREATURE_MOTIONS } from './creature-motions';
import type { LibraryMotion } from './library-motion';

/** Every motion that ships. */
export const LIBRARY: LibraryMotion[] = [...BODY_MOTIONS, ...CREATURE_MOTIONS];
export type { LibraryMotion, MotionSkeleton } from './library-motion';
export { rolesByName, twinsByName, type MotionRole, type SidedRole } from './motion-role';
export { legsOf, type Leg } from './legs';
export { adjustMotion, AS_IT_IS } from './adjust-motion';
export * from './pin-feet';
export { plantedFeet, plantedSpans, type Planted } from './planted-feet';
export { missingRoles, MotionPutError, PLAIN_CHOICES, putMotion, type MotionChoices } from './put-motion';
export * from './hand-contacts';
