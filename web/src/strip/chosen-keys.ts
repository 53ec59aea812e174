import type { Clip, Id, Key, KeyTrack } from '@itchkit/core/document';
import { allKeys, type KeyRef } from '@itchkit/core/motion';

export const isSameKey = (a: KeyRef, track: Id, time: number) => a.track === track && Math.abs(a.time - time) < 1e-6;

/** Of those that were chosen the keys that are still there, each with its track. */
export function keysOf(clip: Clip, refs: readonly KeyRef[]): { track: KeyTrack; key: Key }[] {
  return refs.flatMap((ref) => {
    const track = clip.tracks.find((one): one is KeyTrack => one.kind === 'keys' && one.id === ref.track);
    const key = track?.keys.find((one) => Math.abs(one.time - ref.time) < 1e-6);
    return track && key ? [{ track, key }] : [];
  });
}

/** What a tool works on: the chosen keys, or all keys of the chosen parts, or all of the clip. */
export function toolKeys(clip: Clip, refs: readonly KeyRef[], selection: readonly Id[]): KeyRef[] {
  const own = keysOf(clip, refs);
  if (own.length > 0) return own.map(({ track, key }) => ({ track: track.id, time: key.time }));
  const ofParts = clip.tracks.filter((track) => selection.includes(track.part));
  return allKeys(ofParts.length > 0 ? ofParts : clip.tracks);
}

/** Keys of some tracks within a time, seconds. */
export function keysWithin(tracks: readonly KeyTrack[], from: number, to: number): KeyRef[] {
  return tracks.flatMap((track) =>
    track.keys.filter(({ time }) => time >= from - 1e-9 && time <= to + 1e-9).map(({ time }) => ({ track: track.id, time })),
  );
}
