import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  KitError,
  partOf,
  putArray,
  readArray,
  type Blobs,
  type Clip,
  type Id,
  type Key,
  type Kit,
  type KeyTrack,
  type SampleTrack,
  type Track,
} from '../document';
import { flattenParts, largestStretch, Poser } from '../geometry';
import { clipOf } from './clip-operations';
import { compileClip, keySlopes, sampleClip } from './sampler';

/** A part that a clip carries away. */
export interface Way {
  part: Id;
  /** How far it is from where it began when the clip ends, metres. */
  metres: number;
}

/** Ways shorter than this are none, metres. */
const LEAST = 1e-3;

/** The part that ends furthest from where it begins by its own offsets; null where none does, or a formula carries it. */
export function wayOf(kit: Kit, clip: Clip, blobs: Blobs): Way | null {
  const offsets = clip.tracks.filter(({ property }) => property === 'offset');
  const worked = new Set(offsets.filter(({ kind }) => kind === 'formula').map(({ part }) => part));
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip({ ...clip, tracks: offsets.filter(({ part }) => !worked.has(part)) }, poser.flat, blobs);
  const at = (time: number) => {
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    return poser.pose.offset.slice();
  };
  const [from, to] = [at(0), at(clip.lengthSeconds)];
  let most: Way | null = null;
  for (let p = 0; p < poser.flat.ids.length; p++) {
    const above = poser.flat.parent[p];
    const stretch = above < 0 ? 1 : largestStretch(poser.world.subarray(16 * above, 16 * above + 16));
    const metres = stretch * Math.hypot(to[3 * p] - from[3 * p], to[3 * p + 1] - from[3 * p + 1], to[3 * p + 2] - from[3 * p + 2]);
    if (metres > (most?.metres ?? LEAST)) most = { part: poser.flat.ids[p], metres };
  }
  return most;
}

/**
 * A clip's tracks with a part's offsets so that they end where they begin: what they come to is taken out evenly over the time. What goes
 * straight or in curves keeps its way otherwise; a stretch with another easing goes by that from its one end to its other.
 *
 * @throws KitError where a formula carries the part
 */
export function tracksInPlace({ tracks, name }: Pick<Clip, 'tracks' | 'name'>, part: Id, blobs: Blobs): Track[] {
  return tracks.map((track) => {
    if (track.part !== part || track.property !== 'offset') return track;
    if (track.kind === 'formula')
      throw new KitError('formula', `A formula carries that part. Take its way out of “${track.source}” yourself.`, name);
    return track.kind === 'keys' ? { ...track, keys: withoutWay(track) } : withoutWayOf(track, blobs);
  });
}

/** Lets a part end where it begins in a clip (see `tracksInPlace`). */
export const stayInPlace = defineOperation<{ clip: Id; part: Id }>({
  id: 'motion.stay-in-place',
  title: (kit, { clip, part }) => `Keep “${kit.parts[part]?.name}” in place in “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), part: idSchema.required() }),
  change(kit, { clip: id, part }, blobs) {
    const clip = clipOf(kit, id);
    partOf(kit, part);
    clip.tracks = tracksInPlace(clip, part, blobs);
  },
});

function withoutWay({ keys }: KeyTrack): Key[] {
  const [first, last] = [keys[0], keys[keys.length - 1]];
  if (keys.length < 2) return keys;
  const rate = (last.value - first.value) / (last.time - first.time);
  const { slopesIn, slopesOut } = keySlopes(keys);
  return keys.map((key, i): Key => ({
    ...key,
    value: key.value - rate * (key.time - first.time),
    // Tangents that are chosen by the values would be others.
    ...((key.slopeIn !== undefined || (i > 0 && keys[i - 1].easing === 'curve')) && { slopeIn: slopesIn[i] - rate }),
    ...((key.slopeOut !== undefined || key.easing === 'curve') && { slopeOut: slopesOut[i] - rate }),
  }));
}

function withoutWayOf(track: SampleTrack, blobs: Blobs): SampleTrack {
  const times = readArray<Float32Array>(blobs, track.times);
  const values = readArray<Float32Array>(blobs, track.values).slice();
  const last = times.length - 1;
  if (last < 1) return track;
  const [stride, lead] = track.interpolation === 'curve' ? [9, 3] : [3, 0];
  const row = (i: number) => i * stride + lead;
  for (let c = 0; c < 3; c++) {
    const rate = (values[row(last) + c] - values[row(0) + c]) / (times[last] - times[0]);
    for (let i = 0; i <= last; i++) {
      values[row(i) + c] -= rate * (times[i] - times[0]);
      if (lead === 0) continue;
      values[row(i) - 3 + c] -= rate;
      values[row(i) + 3 + c] -= rate;
    }
  }
  return { ...track, values: putArray(blobs, values, 3) };
}
