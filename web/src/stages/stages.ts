import type { Stage } from '@itchkit/core';

/** The stages that have tools, in the order of the work. */
export const BUILT_STAGES: { id: Stage; title: string }[] = [
  { id: 'intake', title: 'Intake' },
  { id: 'shape', title: 'Shape' },
  { id: 'motion', title: 'Motion' },
  { id: 'wiring', title: 'Wiring' },
  { id: 'trial', title: 'Trial' },
  { id: 'ship', title: 'Ship' },
];
