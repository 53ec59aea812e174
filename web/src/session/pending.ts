import type { Call, Patch } from '@itchkit/core/document';

/** One step of undo. */
export interface Step {
  title: string;
  patches: Patch[];
  inverse: Patch[];
}

/** A change that the server does not have yet. Calls can be made again on a newer revision; patches only fit their own. */
export interface Pending {
  title: string;
  patches: Patch[];
  calls: Call[] | null;
}
