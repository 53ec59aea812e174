import type { Blobs, Call, Clip, Id, Kit } from '@itchkit/core/document';
import {
  fittedMotion,
  LIBRARY,
  matchedMotion,
  takenMotion,
  type LibraryMotion,
  type FitChoices,
  type TakenMotion,
} from '@itchkit/core/motion';

/** A motion that can be put on the kit: one that ships, or a clip of another kit or of a file, which is called so. */
export type MotionSource = { kind: 'library'; motion: LibraryMotion } | ({ kind: 'taken'; from: string } & TakenMotion);

export interface Fit {
  choices: FitChoices;
  /** Whether planted feet of a taken clip are kept on their places; those of the library are. */
  pinned: boolean;
}

export const libraryOf = (skeleton: LibraryMotion['skeleton']) => LIBRARY.filter((motion) => motion.skeleton === skeleton);

/** A clip of another kit, matched with this one by names. */
export const takenFrom = (from: string, other: Kit, clip: Clip, kit: Kit, blobs: Blobs): MotionSource => ({
  kind: 'taken',
  from,
  ...matchedMotion(other, clip, kit, blobs),
});

/** Whether anything of it would move here. */
export const hasMatch = (source: MotionSource) => source.kind === 'library' || Object.values(source.pairs).some((part) => part !== null);

export const titleOf = (source: MotionSource) => (source.kind === 'library' ? source.motion.title : source.clip.name);

/** The calls that put a motion on the kit as a clip of its own. */
export function callsFor(kit: Kit, source: MotionSource, { choices, pinned }: Fit, rate: number, id: Id, name: string): Call[] {
  if (source.kind === 'library') return fittedMotion(kit, { motion: source.motion, clip: id, name, choices, rate });
  return takenMotion(kit, source, { choices, pinned }, { id, name });
}
