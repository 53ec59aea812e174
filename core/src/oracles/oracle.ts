import { KitError, readArray, type Blobs, type Clip } from '../document';
import type { Random } from './random';

/** Something that core works out, held against another way to work it out. */
export interface Oracle {
  id: string;
  /** What is promised, as a person reads it. */
  about: string;
  /** What it is held against. */
  against: string;
  /** The greatest deviation that is promised. */
  promised: number;
  unit: 'mm' | '°' | 'share' | 'times the tolerance';
  /** How many cases are run with the other tests; many more by `npm run oracles`. */
  cases: number;
  /** What share of the cases that are asked for are run, where one takes long. */
  share?: number;
  /** The deviation in the case of a seed. */
  deviation: (seed: number) => number | Promise<number>;
}

/** The greatest way between points of two lists, three numbers each; infinite where they are not as many. */
export function furthest(a: readonly number[], b: readonly number[]): number {
  if (a.length !== b.length) return Infinity;
  let most = 0;
  for (let i = 0; i < a.length; i += 3) most = Math.max(most, Math.hypot(a[i] - b[i], a[i + 1] - b[i + 1], a[i + 2] - b[i + 2]));
  return most;
}

/** The greatest way over parts; infinite where one has a part that the other has not. */
export function furthestOf<K>(a: ReadonlyMap<K, readonly number[]>, b: ReadonlyMap<K, readonly number[]>): number {
  if (a.size !== b.size) return Infinity;
  return Math.max(0, ...[...a].map(([key, points]) => furthest(points, b.get(key) ?? [NaN])));
}

/** A step in motion takes a moment where a file has lines alone: times in it are not looked at. */
const NEAR_A_KEY = 3e-4;

/** Times of a clip, seconds: so many at random, none at a key, where motion may jump. */
export function looksAt(clip: Clip, blobs: Blobs, random: Random, count: number): number[] {
  return awayFromKeys(
    clip,
    blobs,
    Array.from({ length: count }, () => random.between(0, clip.lengthSeconds)),
  );
}

/** Those of some times, seconds, at which no key of a clip stands. */
export function awayFromKeys(clip: Clip, blobs: Blobs, times: readonly number[]): number[] {
  const keys = clip.tracks.flatMap((track) => {
    if (track.kind === 'keys') return track.keys.map(({ time }) => time);
    return track.kind === 'samples' ? [...readArray<Float32Array>(blobs, track.times)] : [];
  });
  return times.filter((time) => keys.every((key) => Math.abs(time - key) > NEAR_A_KEY));
}

/** What an operation gives, or null where it refuses in a sentence. */
export function allowed<T>(run: () => T): T | null {
  try {
    return run();
  } catch (error) {
    if (error instanceof KitError) return null;
    throw error;
  }
}
