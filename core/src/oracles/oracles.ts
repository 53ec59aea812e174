import { MOTION_ORACLES } from './motion-oracles';
import type { Oracle } from './oracle';
import { mixing } from './mix-oracle';
import { overlaying } from './overlay-oracle';
import { SHAPE_ORACLES } from './shape-oracles';
import { STRANGER_ORACLES } from './stranger-oracles';
import { walkways } from './walk-oracle';

/** All that is held against another way to work it out; docs/accuracy.md is made of it. */
export const ORACLES: readonly Oracle[] = [...MOTION_ORACLES, overlaying, mixing, ...SHAPE_ORACLES, walkways, ...STRANGER_ORACLES];
