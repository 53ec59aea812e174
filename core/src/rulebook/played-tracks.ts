import type { Clip, Track } from '../document';
import type { Rulebook, TrackKind } from './types';

/** What a platform plays a track by: what is not shown is packaged as being of no size. */
const AS_WELL: Record<Track['property'], TrackKind[]> = {
  offset: ['offset'],
  turn: ['turn', 'rotation'],
  rotation: ['rotation', 'turn'],
  size: ['size'],
  shown: ['shown', 'size'],
  weight: ['weights'],
  weights: ['weights'],
};

/** Whether a platform plays tracks of a property; all where its rulebook says nothing. */
export function isPlayed(rulebook: Pick<Rulebook, 'motion'>, property: Track['property']): boolean {
  const allowed = rulebook.motion?.tracks;
  return !allowed || AS_WELL[property].some((one) => allowed.includes(one));
}

/** A clip as a platform plays it: without tracks that it leaves out. */
export function playedClip(rulebook: Pick<Rulebook, 'motion'>, clip: Clip): Clip {
  return clip.tracks.every(({ property }) => isPlayed(rulebook, property))
    ? clip
    : withTracks(
        clip,
        clip.tracks.filter(({ property }) => isPlayed(rulebook, property)),
      );
}

/** A clip with other tracks. */
export function withTracks(clip: Clip, tracks: Track[]): Clip {
  // Checks see records through getters of a prototype, which no spread would copy.
  const whole: Partial<Record<keyof Clip, unknown>> = {};
  for (const field in clip) whole[field as keyof Clip] = clip[field as keyof Clip];
  return { ...(whole as Clip), tracks };
}
