import { newId, partOf, putArray, subtreeOf, type Blobs, type Clip, type Id, type Kit, type Quat, type SampleTrack } from '../document';
import { angleBetweenQuats, conjugateQuat, flattenParts, multiplyQuats, Poser, restBounds } from '../geometry';
import { compileClip, sampleClip, trackLength } from '../motion';
import { bakeClip, type BakedPart, type BakeOptions } from './bake';

/** A clip as a platform of straight keys plays it, and how far that is from what was made. */
export interface AsPlayed {
  clip: Clip;
  keys: { made: number; played: number };
  /** Greatest way that any corner of a part's bounds is off, and the greatest turn. */
  millimetres: number;
  degrees: number;
  /** Where and when it is furthest off. */
  part: Id | null;
  time: number;
}

/** Looks a frame. */
const LOOKS = 4;
const MOST_LOOKS = 800;

/** The clip that the package carries: straight keys and quaternions, as dense tracks; measured against the clip at four times a frame. */
export function asPlayed(kit: Kit, clip: Clip, blobs: Blobs, options: BakeOptions = {}): AsPlayed {
  const baked = bakeClip(kit, clip, blobs, options);
  const played: Clip = { ...clip, tracks: baked.flatMap((part) => denseTracks(kit, part, blobs)) };
  const made = clip.tracks.reduce((sum, track) => sum + trackLength(track), 0);
  return {
    clip: played,
    keys: { made, played: baked.reduce((sum, part) => sum + part.times.length, 0) },
    ...farthest(kit, clip, played, baked, blobs),
  };
}

function denseTracks(kit: Kit, baked: BakedPart, blobs: Blobs): SampleTrack[] {
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

function farthest(
  kit: Kit,
  clip: Clip,
  played: Clip,
  baked: readonly BakedPart[],
  blobs: Blobs,
): Pick<AsPlayed, 'millimetres' | 'degrees' | 'part' | 'time'> {
  const [a, b] = [new Poser(flattenParts(kit)), new Poser(flattenParts(kit))];
  const [first, second] = [compileClip(clip, a.flat, blobs), compileClip(played, b.flat, blobs)];
  const moved = new Set(baked.flatMap(({ part }) => [...subtreeOf(kit, part)]));
  const corners = [...moved].map((id) => ({ id, index: a.flat.indexOf.get(id)!, points: ownCorners(kit, blobs, id) }));
  const out = { millimetres: 0, degrees: 0, part: null as Id | null, time: 0 };
  const looks = Math.min(MOST_LOOKS, Math.max(1, Math.ceil(clip.lengthSeconds * clip.rate * LOOKS)));
  for (let look = 0; look <= looks; look++) {
    // A hair off whole shares, so that the instants of jumps are not what is measured.
    const time = Math.min(clip.lengthSeconds, (clip.lengthSeconds * (look + 0.37)) / looks);
    for (const [poser, compiled] of [
      [a, first],
      [b, second],
    ] as const) {
      poser.reset();
      sampleClip(compiled, time, poser.pose);
      poser.update();
    }
    for (const { id, index, points } of corners) {
      const quat = (poser: Poser): Quat => [0, 1, 2, 3].map((c) => poser.rotation[4 * index + c]) as Quat;
      out.degrees = Math.max(out.degrees, angleBetweenQuats(quat(a), quat(b)));
      for (let i = 0; i < points.length; i += 3) {
        let square = 0;
        for (let row = 0; row < 3; row++) {
          const at = 16 * index + row;
          const [p, q] = [a, b].map(
            ({ world }) => world[at] * points[i] + world[at + 4] * points[i + 1] + world[at + 8] * points[i + 2] + world[at + 12],
          );
          square += (p - q) ** 2;
        }
        const millimetres = 1000 * Math.sqrt(square);
        if (millimetres > out.millimetres) Object.assign(out, { millimetres, part: id, time });
      }
    }
  }
  return out;
}

/** Pivot and corners of a part's own geometry, in its own axes, metres. */
function ownCorners(kit: Kit, blobs: Blobs, id: Id): number[] {
  const part = partOf(kit, id);
  const alone: Kit = {
    ...kit,
    parts: { [id]: { ...part, parent: null, translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1], skin: null } },
  };
  const points = [0, 0, 0];
  if (part.mesh === null || part.skin !== null) return points;
  const { min, max } = restBounds(alone, blobs, [id]);
  for (let corner = 0; corner < 8; corner++) points.push(...[0, 1, 2].map((axis) => ((corner >> axis) & 1 ? max[axis] : min[axis])));
  return points;
}
