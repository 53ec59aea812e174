import { callOf, type Blobs, type Call, type Clip, type Id, type Kit } from '../../document';
import { guessClipScale, matchByNames } from '../match-names';
import { takeClips } from '../take-clips';
import { adjustMotion } from './adjust-motion';
import { isAsItIs, type FitChoices } from './fit-choices';
import { legsOf } from './legs';
import { plantedFeet, type Planted } from './planted-feet';

/** A clip of another kit, matched with one of ours. */
export interface TakenMotion {
  source: Kit;
  clip: Clip;
  /** Part of ours by part of the other; null leaves its motion out. */
  pairs: Record<Id, Id | null>;
  /** Factor for what moves by metres. */
  scale: number;
  /** When its own feet stand, in its own parts and metres. */
  planted: Planted[];
}

/** A clip of another kit, matched with ours by names, with the feet that stand in it. */
export function matchedMotion(source: Kit, clip: Clip, kit: Kit, blobs: Blobs): TakenMotion {
  const pairs = matchByNames(source, kit);
  return { source, clip, pairs, scale: guessClipScale(source, kit, pairs), planted: plantedFeet(source, clip, blobs) };
}

/** When feet of ours stand by what stands there: those alone whose legs are known here, so that they can be kept on their places. */
export function plantedHere(kit: Kit, { pairs, scale, planted }: TakenMotion): Planted[] {
  const feet = new Set(legsOf(kit).map(([, , foot]) => foot));
  return planted.flatMap((one) => {
    const foot = pairs[one.foot];
    return foot && feet.has(foot) ? [{ ...one, foot, lift: scale * one.lift }] : [];
  });
}

/**
 * The calls that take a clip of another kit and fit it: feet that stand there stand here as well, within 5 mm, unless they are not to be
 * pinned (design, algorithms: retargeting).
 *
 * @param made The clip's id here, and the name that it is to have.
 */
export function takenMotion(
  kit: Kit,
  taken: TakenMotion,
  { choices, pinned }: { choices: FitChoices; pinned: boolean },
  made: { id: Id; name: string },
): Call[] {
  const { source, clip, pairs, scale } = taken;
  const only = { ...source, clips: { [clip.id]: clip } };
  const take = callOf(takeClips, { source: only, clips: [clip.id], pairs, scale, as: { [clip.id]: made } });
  const planted = plantedHere(kit, taken);
  const pin = pinned && planted.length > 0;
  if (isAsItIs(choices) && !pin) return [take];
  return [take, callOf(adjustMotion, { clip: made.id, choices, pinned: pin, planted })];
}
