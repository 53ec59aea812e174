import { clipsInOrder } from '../../document';
import { figure } from '../wording';
import { poseGap } from './pose-gap';
import type { Check, Said } from '../types';

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
          mend: clip.tracks.some((track) => track.kind === 'formula')
            ? undefined
            : {
                title: 'Spread the difference over the end',
                safe: false,
                call: { operation: 'motion.mend-seam', args: { clip: clip.id, by: 'spread', seconds: mendTime(clip.lengthSeconds) } },
                changes: [
                  `${clip.name}: a key a frame over its last ${figure(mendTime(clip.lengthSeconds))} s, which ends where it begins`,
                ],
              },
        },
      ];
    });
  },
};
