import { clipsInOrder } from '../../document';
import { figure } from '../wording';
import { poseGap } from './pose-gap';
import type { Check, Said } from '../types';

/** Clips begin in the rest pose. */
export const clipsNeutralStart: Check = {
  id: 'clips.neutral-start',
  family: 'clips',
  stage: 'motion',
  about: 'Clips begin in the rest pose',
  limit: 'millimetres',
  run(context, rule) {
    const { kit } = context;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      if (clip.tracks.length === 0) return [];
      const gap = poseGap(context, clip, null, 0);
      const { part } = gap;
      const millimetres = 1000 * gap.metres;
      if (millimetres <= rule.limit! || part === null) return [];
      return [
        {
          key: clip.id,
          title: 'Does not begin at rest',
          message: `“${clip.name}” begins with “${kit.parts[part].name}” ${figure(millimetres, 1)} mm away from rest.`,
          measured: `${figure(millimetres, 1)} mm`,
          limit: `${figure(rule.limit!, 1)} mm`,
          share: rule.limit! > 0 ? millimetres / rule.limit! : undefined,
          parts: [part],
        },
      ];
    });
  },
};
