import Joi from 'joi';
import { idSchema, KitError, type Clip, type Id, type Key, type KeyTrack, type Kit, type Track } from '../../document';
import { clipOf } from '../clip-operations';
import { eachTrack, insertKey, keyRefs, type KeyRef } from '../key-operations';
import { SAME_TIME, tidyTime } from '../same-time';

/** What every tool on keys is given: some keys of a clip. */
export interface Chosen {
  clip: Id;
  keys: KeyRef[];
}

/** What every tool on keys is given: a clip, and the chosen keys in it. */
export const chosenArgs = { clip: idSchema.required(), keys: keyRefs };

/** A tool that can't do what was asked with these keys, and why. */
export class ToolError extends KitError {
  constructor(message: string, where?: string) {
    super('motion-tool', message, where);
  }
}

/** First and last time of the chosen keys, seconds. */
export function spanOf(keys: readonly KeyRef[]): [first: number, last: number] {
  let [first, last] = [Infinity, -Infinity];
  for (const { time } of keys) {
    first = Math.min(first, time);
    last = Math.max(last, time);
  }
  return [first, last];
}

/** Takes the chosen keys of every track out, and puts in what is made of them. Gives those. */
export function replaceChosen(kit: Kit, { clip, keys }: Chosen, make: (chosen: Key[], track: KeyTrack) => Key[]): KeyRef[] {
  const put: KeyRef[] = [];
  eachTrack(kit, clip, keys, (track, isChosen) => {
    const chosen = track.keys.filter(isChosen).map((key) => ({ ...key }));
    if (chosen.length === 0) return;
    const made = make(chosen, track);
    track.keys = track.keys.filter((key) => !isChosen(key));
    for (const key of made) put.push({ track: track.id, time: insertKey(track.keys, { ...key, time: tidyTime(key.time) }) });
  });
  return put;
}

/** Keys of the tracks that come after a time are put off, to make room for what is appended there. Gives whether there were any. */
export function pushLater(kit: Kit, { clip, keys }: Chosen, after: number, bySeconds: number): boolean {
  let pushed = false;
  eachTrack(kit, clip, keys, (track) => {
    track.keys = track.keys.map((key) => {
      if (key.time <= after + SAME_TIME) return key;
      pushed = true;
      return { ...key, time: tidyTime(key.time + bySeconds) };
    });
  });
  return pushed;
}

/** Every key of some tracks, as chosen. */
export function allKeys(tracks: readonly Track[]): KeyRef[] {
  return tracks.flatMap((track) => (track.kind === 'keys' ? track.keys.map(({ time }) => ({ track: track.id, time })) : []));
}

/** The track of a part's property and axis; made where there is none. */
export function trackFor(clip: Clip, part: Id, property: KeyTrack['property'], axis: number, id: () => Id): KeyTrack {
  const isIt = (track: Track): track is KeyTrack =>
    track.kind === 'keys' && track.part === part && track.property === property && track.axis === axis;
  const found = clip.tracks.find(isIt);
  if (found) return found;
  clip.tracks.push({ kind: 'keys', id: id(), part, property, axis, keys: [] });
  return clip.tracks.find(isIt)!;
}

/** @throws {ToolError} where a clip has formulas that the tool would have to bend */
export function refuseFormulas(kit: Kit, clip: Id, what: string): void {
  const formula = clipOf(kit, clip).tracks.find((track) => track.kind === 'formula');
  if (formula)
    throw new ToolError(
      `“${kit.parts[formula.part].name}” moves by a formula, which can’t be ${what}. Turn it into keys first.`,
      formula.part,
    );
}

/** A number no further from 0 than `most`. */
export const number = (most = 1e6) => Joi.number().min(-most).max(most);
/** More than 0 seconds, at most an hour. */
export const seconds = Joi.number().greater(0).max(3600);
