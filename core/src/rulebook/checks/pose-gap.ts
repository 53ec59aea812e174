import type { Clip, Id } from '../../document';
import { flattenParts, MeasuredVertices, Poser } from '../../geometry';
import { compileClip, sampleClip } from '../../motion';
import { playedClip } from '../played-tracks';
import type { CheckContext } from '../types';

/** Where and by how much two poses of a clip differ. */
export interface PoseGap {
  /** How far the vertex is from where it was that went furthest, metres. */
  metres: number;
  part: Id | null;
}

/**
 * The greatest way that a vertex of a kit goes between two poses as the platform plays them, deformed ones and those moved by morph targets
 * too; pivots count as well.
 *
 * @param from Seconds within the clip; null for rest.
 */
export function poseGap({ kit, blobs, rulebook, once }: CheckContext, clip: Clip, from: number | null, to: number): PoseGap {
  const vertices = once('measured vertices', () => new MeasuredVertices(kit, blobs));
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(playedClip(rulebook, clip), poser.flat, blobs);
  const places = (time: number | null): Float64Array => {
    poser.reset();
    if (time !== null) sampleClip(compiled, time, poser.pose);
    poser.update();
    const out = new Float64Array(3 * vertices.count);
    vertices.place(poser, out);
    return out;
  };
  const gap: PoseGap = { metres: 0, part: null };
  vertices.eachDifference(places(from), places(to), (part, _, metres) => {
    if (metres > gap.metres) Object.assign(gap, { metres, part });
  });
  return gap;
}
