import { BlobsOver, clipsInOrder, jointsOf, type Clip } from '../../document';
import { tracksInPlace, wayOf } from '../../motion';
import { withTracks } from '../played-tracks';
import { figure } from '../wording';
import { poseGap } from './pose-gap';
import type { Check, CheckContext, Mend, MendWay, Said } from '../types';

/** Seconds over which a seam is mended. */
const mendTime = (lengthSeconds: number) => Number(Math.min(0.3, lengthSeconds / 4).toFixed(4));

/** A loop ends where it begins. */
export const clipsSeam: Check = {
  id: 'clips.seam',
  family: 'clips',
  stage: 'motion',
  about: 'A loop ends where it begins',
  limit: 'millimetres',
  run(context, rule) {
    const { kit } = context;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      if (clip.loop !== 'loop' || clip.tracks.length === 0) return [];
      const gap = poseGap(context, clip, clip.lengthSeconds, 0);
      const { part } = gap;
      const millimetres = 1000 * gap.metres;
      if (millimetres <= rule.limit! || part === null) return [];
      return [
        {
          key: clip.id,
          title: 'Seam does not meet',
          message: `“${clip.name}” ends with “${kit.parts[part].name}” ${figure(millimetres, 1)} mm away from where it begins, so it jumps.`,
          measured: `${figure(millimetres, 1)} mm`,
          limit: `${figure(rule.limit!, 1)} mm`,
          share: rule.limit! > 0 ? millimetres / rule.limit! : undefined,
          parts: [part],
          mend: mendOf(context, clip, rule.limit!),
        },
      ];
    });
  },
};

function mendOf(context: CheckContext, clip: Clip, limit: number): Mend | undefined {
  if (clip.tracks.some((track) => track.kind === 'formula')) return undefined;
  const spread: MendWay = {
    title: 'Spread the difference over the end',
    call: { operation: 'motion.mend-seam', args: { clip: clip.id, by: 'spread', seconds: mendTime(clip.lengthSeconds) } },
    changes: [`${clip.name}: a key a frame over its last ${figure(mendTime(clip.lengthSeconds))} s, which ends where it begins`],
  };
  const stays = stayOf(context, clip, limit);
  if (!stays) return { ...spread, safe: false };
  return { ...stays, safe: false, ways: [stays, spread] };
}

/** Keeping what is carried away in place, where the seam is nothing but that. */
function stayOf(context: CheckContext, clip: Clip, limit: number): MendWay | null {
  const { kit } = context;
  const blobs = new BlobsOver(context.blobs);
  const way = wayOf(kit, clip, blobs);
  if (!way || !jointsOf(kit).has(way.part)) return null;
  const kept = withTracks(clip, tracksInPlace(clip, way.part, blobs));
  if (1000 * poseGap({ ...context, blobs }, kept, clip.lengthSeconds, 0).metres > limit) return null;
  const { name } = kit.parts[way.part];
  return {
    title: `Keep “${name}” in place`,
    call: { operation: 'motion.stay-in-place', args: { clip: clip.id, part: way.part } },
    changes: [`${clip.name}: the ${figure(1000 * way.metres, 1)} mm that “${name}” goes in it are taken out evenly`],
  };
}
