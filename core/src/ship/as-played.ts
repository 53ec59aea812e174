import { newId, partOf, putArray, type Blobs, type Clip, type Id, type Kit, type Quat, type SampleTrack } from '../document';
import { conjugateQuat, MeasuredVertices, multiplyQuats } from '../geometry';
import { PoseDifference, poseOfClip, trackLength } from '../motion';
import { awayFromSteps, bakeClip, bakedLooks, type BakeOptions } from './bake';
import { laidOut, poseOfBaked, widthOf, type BakedKeys, type BakedValues, type RowChange } from './baked-keys';

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

/** Baked keys as dense tracks, relative to rest. */
export function denseTracks(kit: Kit, baked: BakedKeys, blobs: Blobs): SampleTrack[] {
  const { translation, rotation, scale, ...part } = partOf(kit, baked.part);
  const times = putArray(blobs, Float32Array.from(baked.times), 1);
  const out: SampleTrack[] = [];
  const add = (property: SampleTrack['property'], from: keyof BakedValues, ...relative: RowChange[]) => {
    if (!baked.moves[from]) return;
    out.push({
      kind: 'samples',
      id: newId(),
      part: part.id,
      property,
      interpolation: baked.curves ? 'curve' : 'straight',
      times,
      values: putArray(blobs, Float32Array.from(laidOut(baked, from, ...relative)), widthOf(baked, from)),
    });
  };
  const back = conjugateQuat(rotation);
  const turned = (row: number[]) => multiplyQuats(back, row as Quat);
  const ofRest = (row: number[], none: number) => row.map((value, c) => (scale[c] === 0 ? none : value / scale[c]));
  add('offset', 'translation', (row) => row.map((value, c) => value - translation[c]));
  add('rotation', 'rotation', turned, turned);
  add(
    'size',
    'scale',
    (row) => ofRest(row, 1),
    (row) => ofRest(row, 0),
  );
  add('weights', 'weights');
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
