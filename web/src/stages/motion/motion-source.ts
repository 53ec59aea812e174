import { callOf, type Blobs, type Call, type Clip, type Id, type Kit } from '@itchkit/core/document';
import {
  adjustMotion,
  fittedMotion,
  isAsItIs,
  guessClipScale,
  LIBRARY,
  matchByNames,
  plantedFeet,
  takeClips,
  type LibraryMotion,
  type FitChoices,
  type Planted,
} from '@itchkit/core/motion';

/** A motion that can be put on the kit: one that ships, or a clip of another kit or of a file. */
export type MotionSource =
  | { kind: 'library'; motion: LibraryMotion }
  | {
      kind: 'taken';
      /** The other kit or file, as it is called. */
      from: string;
      /** With this clip alone. */
      source: Kit;
      clip: Clip;
      pairs: Record<Id, Id | null>;
      /** Factor for what moves by metres. */
      scale: number;
      planted: Planted[];
    };

export interface Fit {
  choices: FitChoices;
  /** Whether planted feet of a taken clip are kept on their places; those of the library are. */
  pinned: boolean;
}

export const libraryOf = (skeleton: LibraryMotion['skeleton']) => LIBRARY.filter((motion) => motion.skeleton === skeleton);

/** A clip of another kit, matched with this one by names. */
export function takenFrom(from: string, other: Kit, clip: Clip, kit: Kit, blobs: Blobs): MotionSource {
  const source = { ...other, clips: { [clip.id]: clip } };
  const pairs = matchByNames(source, kit);
  return { kind: 'taken', from, source, clip, pairs, scale: guessClipScale(source, kit, pairs), planted: plantedFeet(source, clip, blobs) };
}

/** Whether anything of it would move here. */
export const hasMatch = (source: MotionSource) => source.kind === 'library' || Object.values(source.pairs).some((part) => part !== null);

export const titleOf = (source: MotionSource) => (source.kind === 'library' ? source.motion.title : source.clip.name);

/** The calls that put a motion on the kit as a clip of its own. */
export function callsFor(kit: Kit, source: MotionSource, { choices, pinned }: Fit, rate: number, id: Id, name: string): Call[] {
  if (source.kind === 'library') return fittedMotion(kit, { motion: source.motion, clip: id, name, choices, rate });
  const { pairs, scale, clip } = source;
  const take = callOf(takeClips, { source: source.source, clips: [clip.id], pairs, scale, as: { [clip.id]: { id, name } } });
  if (isAsItIs(choices) && !pinned) return [take];
  const planted = source.planted.flatMap((one) => {
    const foot = pairs[one.foot];
    return foot ? [{ ...one, foot, lift: scale * one.lift }] : [];
  });
  return [take, callOf(adjustMotion, { clip: id, choices, pinned, planted })];
}
