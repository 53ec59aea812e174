import { BODY_15, BODY_20 } from './bodies';
import { FINNED, FOUR_LEGGED, HAND_16 } from './creatures';

export { chainTemplate } from './creatures';
export * from './template';

/** Those that ship; a chain is made for a number of joints by `chainTemplate`. */
export const SKELETON_TEMPLATES = [BODY_20, BODY_15, FOUR_LEGGED, FINNED, HAND_16];
