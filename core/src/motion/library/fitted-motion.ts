import type { Call, Id, Kit } from '../../document';
import { adjustMotion } from './adjust-motion';
import { AS_IT_IS, isAsItIs, type FitChoices } from './fit-choices';
import type { LibraryMotion } from './library-motion';
import { plantedIn, putMotion } from './put-motion';

interface Fitted {
  motion: LibraryMotion;
  /** Of the clip that is made. */
  clip: Id;
  name: string;
  choices: FitChoices;
  /** Frames a second. */
  rate: number;
}

/**
 * Puts a motion of the library on a kit and fits it: its feet stand when the motion says so, and stay there with other steps or hips as
 * well.
 */
export function fittedMotion(kit: Kit, { motion, clip, name, choices: wanted, rate }: Fitted): Call[] {
  const put: Call = { operation: putMotion.id, args: { motion: motion.id, clip, name, rate } };
  // What does not travel stays in place by itself.
  const choices = { ...wanted, inPlace: wanted.inPlace && motion.travel !== 0 };
  if (isAsItIs(choices)) return [put];
  const pinned = choices.stride !== AS_IT_IS.stride || choices.hipHeight !== AS_IT_IS.hipHeight;
  const planted = pinned ? plantedIn(motion, kit) : [];
  return [put, { operation: adjustMotion.id, args: { clip, choices, pinned: planted.length > 0, planted } }];
}
