import { MOTION_ORACLES } from './motion-oracles';
import type { Oracle } from './oracle';

/** All that is held against another way to work it out; docs/accuracy.md is made of it. */
export const ORACLES: readonly Oracle[] = [...MOTION_ORACLES];
