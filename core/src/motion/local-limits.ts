import type { Blobs, Clip, Id, Kit } from '../document';
import { flattenParts, largestStretch, Poser, type MeasuredVertices } from '../geometry';
import { compileClip, sampleClip } from './sampler';

export interface Tolerance {
  /** Greatest way that any vertex may be off in the world. */
  metres: number;
  /** Greatest turn that a part may be off. */
  degrees: number;
}

/** How far off a part's own numbers may be. */
export interface LocalLimits {
  /** In the parent's axes. */
  metres: number;
  degrees: number;
  /** A factor. */
  size: number;
  /** A share, for each morph target of its mesh. */
  weights: number[];
}

const LOOKS = 96;
/** What nothing hangs on may be off by no more than this all the same. */
const MOST_SIZE = 1e-2;
const MOST_WEIGHT = 2e-2;

/**
 * How far off each part's own numbers may be, so that by them alone no vertex is further off than a length: the length, by how much all
 * above stretches it at any time of the clip, and for turns and sizes by how far the furthest vertex is carried (arc = radius × angle).
 * Those of a chain add up: who uses this measures the whole (`PoseDifference`) and tightens.
 */
export function localLimits(
  kit: Kit,
  clip: Clip,
  blobs: Blobs,
  vertices: MeasuredVertices,
  { metres, degrees }: Tolerance,
): Map<Id, LocalLimits> {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  const { flat } = poser;
  const own = vertices.ownReaches();
  const ownReach = flat.ids.map((id) => own.get(id) ?? 0);
  const targets = flat.ids.map((id) => vertices.targetReaches(id));
  const n = flat.ids.length;
  // Of all times the greatest: stretch by what is above, times what is carried.
  const stretch = new Float64Array(n);
  const arc = new Float64Array(n);
  const spread = new Float64Array(n);
  const fullStretch = new Float64Array(n);
  const carried = new Float64Array(n);
  for (let look = 0; look <= LOOKS; look++) {
    poser.reset();
    sampleClip(compiled, (clip.lengthSeconds * look) / LOOKS, poser.pose);
    poser.update();
    carried.set(ownReach);
    for (let p = n - 1; p >= 0; p--) {
      const size = Math.max(...[0, 1, 2].map((axis) => Math.abs(poser.scale[3 * p + axis])));
      const parent = flat.parent[p];
      const above = parent < 0 ? 1 : largestStretch(poser.world.subarray(16 * parent, 16 * parent + 16));
      stretch[p] = Math.max(stretch[p], above);
      spread[p] = Math.max(spread[p], above * carried[p]);
      arc[p] = Math.max(arc[p], above * size * carried[p]);
      fullStretch[p] = Math.max(fullStretch[p], above * size);
      if (parent < 0) continue;
      const out = Math.hypot(...poser.translation.subarray(3 * p, 3 * p + 3)) + size * carried[p];
      if (out > carried[parent]) carried[parent] = out;
    }
  }
  // A held mesh is stretched by its joints, and never by less than those of the whole body.
  const most = Math.max(...fullStretch);
  return new Map(
    flat.ids.map((id, p) => [
      id,
      {
        metres: metres / Math.max(stretch[p], 1e-3),
        degrees: Math.min(degrees, arc[p] > 0 ? ((metres / arc[p]) * 180) / Math.PI : degrees),
        size: Math.min(MOST_SIZE, spread[p] > 0 ? metres / spread[p] : MOST_SIZE),
        weights: targets[p].map((reach) =>
          Math.min(MOST_WEIGHT, metres / Math.max(1e-9, reach * (kit.parts[id].skin === null ? fullStretch[p] : most))),
        ),
      },
    ]),
  );
}
