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

/** A clip at a time, seconds; rest where there is none. */
export type PoseAtTime = readonly [clip: Clip | null, seconds: number];

/**
 * The greatest way that a vertex of a kit goes from one pose to another as the platform plays them, deformed ones and those moved by morph
 * targets too; pivots count as well.
 */
export function poseGapBetween({ kit, blobs, rulebook, once }: CheckContext, a: PoseAtTime, b: PoseAtTime): PoseGap {
  const vertices = once('measured vertices', () => new MeasuredVertices(kit, blobs));
  const poser = new Poser(flattenParts(kit));
  const places = ([clip, seconds]: PoseAtTime): Float64Array => {
    poser.reset();
    if (clip) sampleClip(compileClip(playedClip(rulebook, clip), poser.flat, blobs), seconds, poser.pose);
    poser.update();
    const out = new Float64Array(3 * vertices.count);
    vertices.place(poser, out);
    return out;
  };
  const gap: PoseGap = { metres: 0, part: null };
  vertices.eachDifference(places(a), places(b), (part, _, metres) => {
    if (metres > gap.metres) Object.assign(gap, { metres, part });
  });
  return gap;
}

/** The same within a clip. @param from Seconds within the clip; null for rest. */
export const poseGap = (context: CheckContext, clip: Clip, from: number | null, to: number): PoseGap =>
  poseGapBetween(context, from === null ? [null, 0] : [clip, from], [clip, to]);
