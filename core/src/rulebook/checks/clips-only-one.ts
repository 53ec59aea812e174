import { clipsInOrder } from '../../document';
import { count, nameList } from '../wording';
import type { Check } from '../types';
import { movesNothing } from './clips-required';

/** There is exactly one clip, and it moves something. */
export const clipsOnlyOne: Check = {
  id: 'clips.only-one',
  family: 'clips',
  stage: 'motion',
  about: 'There is exactly one clip, and it moves something',
  run(context) {
    const clips = clipsInOrder(context.kit);
    if (clips.length === 1 && movesNothing(context, clips[0]))
      return [
        {
          title: 'The clip moves nothing',
          message: `“${clips[0].name}” is the one clip that the platform plays, and it leaves everything at rest.`,
          measured: clips[0].tracks.length === 0 ? 'no tracks' : `${count(clips[0].tracks.length, 'track')} at rest`,
          limit: 'something moves',
          parts: [],
        },
      ];
    if (clips.length === 1) return [];
    return [
      {
        title: clips.length === 0 ? 'No clip' : 'More than one clip',
        message:
          clips.length === 0
            ? 'The platform plays one clip, and the kit has none.'
            : `The platform plays one clip, and the kit has ${clips.length}: ${nameList(clips.map((clip) => clip.name))}.`,
        measured: count(clips.length, 'clip'),
        limit: '1 clip',
        parts: [],
        mend:
          clips.length > 1
            ? {
                title: `Keep “${clips[0].name}” only`,
                safe: false,
                call: { operation: 'motion.keep-clips', args: { clips: [clips[0].id] } },
                changes: clips.slice(1).map((clip) => `${clip.name} is deleted`),
              }
            : undefined,
      },
    ];
  },
};
