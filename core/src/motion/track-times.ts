import { readArray, type Blobs, type Track } from '../document';

/** Times of a track's keys or samples, seconds, ascending; none for a formula. */
export function trackTimes(track: Track, blobs: Blobs): ArrayLike<number> & Iterable<number> {
  if (track.kind === 'keys') return track.keys.map((key) => key.time);
  return track.kind === 'samples' ? readArray<Float32Array>(blobs, track.times) : [];
}

/** How many keys or samples a track has; a formula has none. */
export function trackLength(track: Track): number {
  if (track.kind === 'keys') return track.keys.length;
  return track.kind === 'samples' ? track.times.count : 0;
}
