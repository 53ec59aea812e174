import { newId, partOf, putArray, type Blobs, type Clip, type Id, type Kit, type Quat, type SampleTrack } from '../document';
import { conjugateQuat, MeasuredVertices, multiplyQuats } from '../geometry';
import { PoseDifference, poseOfClip, trackLength } from '../motion';
import { awayFromSteps, bakeClip, bakedLooks, poseOfBaked, type BakedKeys, type BakeOptions } from './bake';

/** A clip as a platform of straight keys plays it, and how far that is from what was made. */
export interface AsPlayed {
  clip: Clip;
  keys: { made: number; played: number };
  /** Greatest way that any vertex is off, and the greatest turn of a part. */
  millimetres: number;
  degrees: number;
  /** Where and when it is furthest off. */
  part: Id | null;
  time: number;
}

/** The clip that the package carries: straight keys and quaternions, as dense tracks; measured against the clip between all keys. */
export function asPlayed(kit: Kit, clip: Clip, blobs: Blobs, options: BakeOptions = {}): AsPlayed {
  const baked = bakeClip(kit, clip, blobs, options);
  const played: Clip = { ...clip, tracks: baked.flatMap((part) => denseTracks(kit, part, blobs)) };
  const made = clip.tracks.reduce((sum, track) => sum + trackLength(track), 0);
  return {
    clip: played,
    keys: { made, played: baked.reduce((sum, part) => sum + part.times.length, 0) },
    ...furthest(kit, clip, baked, blobs),
  };
}

/** Straight keys as dense tracks, relative to rest. */
export function denseTracks(kit: Kit, baked: BakedKeys, blobs: Blobs): SampleTrack[] {
  const part = partOf(kit, baked.part);
  const times = putArray(blobs, Float32Array.from(baked.times), 1);
  const track = (property: SampleTrack['property'], values: Float32Array, width: number): SampleTrack => ({
    kind: 'samples',
    id: newId(),
    part: part.id,
    property,
    interpolation: 'straight',
    times,
    values: putArray(blobs, values, width),
  });
  const out: SampleTrack[] = [];
  if (baked.moves.translation)
    out.push(
      track(
        'offset',
        Float32Array.from(baked.translation, (value, i) => value - part.translation[i % 3]),
        3,
      ),
    );
  if (baked.moves.rotation) {
    const back = conjugateQuat(part.rotation);
    const values = new Float32Array(baked.rotation.length);
    for (let i = 0; i < values.length; i += 4) values.set(multiplyQuats(back, Array.from(baked.rotation.subarray(i, i + 4)) as Quat), i);
    out.push(track('rotation', values, 4));
  }
  if (baked.moves.scale)
    out.push(
      track(
        'size',
        Float32Array.from(baked.scale, (value, i) => (part.scale[i % 3] === 0 ? 1 : value / part.scale[i % 3])),
        3,
      ),
    );
  if (baked.moves.weights) out.push(track('weights', Float32Array.from(baked.weights), baked.weights.length / baked.times.length));
  return out;
}

function furthest(
  kit: Kit,
  clip: Clip,
  baked: readonly BakedKeys[],
  blobs: Blobs,
): Pick<AsPlayed, 'millimetres' | 'degrees' | 'part' | 'time'> {
  const byPart = new Map(baked.map((part) => [part.part, part]));
  const vertices = new MeasuredVertices(kit, blobs);
  const difference = new PoseDifference(vertices, poseOfClip(kit, clip, blobs), poseOfBaked(kit, byPart));
  for (const time of bakedLooks(clip, blobs, baked, vertices.count)) difference.look(time);
  // From the furthest that was looked at uphill, by shorter and shorter steps.
  for (let step = 0.25 / clip.rate; step > 1e-5; step /= 2) {
    const { time } = difference.furthest;
    const beside = [time - step, time + step].filter((one) => one > 0 && one < clip.lengthSeconds);
    for (const one of awayFromSteps(clip, blobs, beside)) difference.look(one);
  }
  const { metres, degrees, part, time } = difference.furthest;
  return { millimetres: 1000 * metres, degrees, part, time };
}
