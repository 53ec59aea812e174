import { FEEL_TOOLS } from './feel-tools';
import type { MotionTool } from './motion-tool';
import { PART_TOOLS } from './part-tools';
import { TIME_TOOLS } from './time-tools';

/** Every tool on keys, in the order in which they are listed. */
export const MOTION_TOOLS: MotionTool[] = [...TIME_TOOLS, ...FEEL_TOOLS, ...PART_TOOLS];
