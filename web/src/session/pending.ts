import type { Call, Kit, Patch } from '@itchkit/core/document';

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

/** Patches that make one document another, a section at a time. */
export function replacing(from: Kit, to: Kit): Patch[] {
  const keys = [...new Set([...Object.keys(from), ...Object.keys(to)])] as (keyof Kit)[];
  return keys
    .filter((key) => from[key] !== to[key])
    .map((key): Patch => {
      if (to[key] === undefined) return { op: 'remove', path: [key] };
      return { op: from[key] === undefined ? 'add' : 'replace', path: [key], value: to[key] };
    });
}
