import { clipsInOrder } from '../../document';
import { isIdle } from './idle-track';
import type { Check } from '../types';

/** The first clip is the rest pose, and moves nothing. */
export const clipsRestFirst: Check = {
  id: 'clips.rest-first',
  family: 'clips',
  stage: 'motion',
  about: 'The first clip is the rest pose, and moves nothing',
  needs: ({ motion }) => (motion?.rest ? null : 'the name of the rest clip (motion.rest)'),
  run({ kit, rulebook, blobs }) {
    const rest = rulebook.motion!.rest!;
    const [first] = clipsInOrder(kit);
    const own = Object.values(kit.clips).find((clip) => clip.name === rest);
    if (own && first === own) {
      if (own.tracks.every((track) => isIdle(track, blobs))) return [];
      return [
        {
          title: 'The rest clip moves',
          message: `“${rest}” has tracks that leave the rest pose.`,
          measured: 'moves',
          limit: 'rest pose',
          parts: [...new Set(own.tracks.filter((track) => !isIdle(track, blobs)).map((track) => track.part))],
        },
      ];
    }
    const alike = own ? undefined : Object.values(kit.clips).find((clip) => clip.name.toLowerCase() === rest.toLowerCase());
    if (alike)
      return [
        {
          title: 'The rest clip is written otherwise',
          message: `“${alike.name}” is not “${rest}”, by which the platform finds the rest pose.`,
          measured: alike.name,
          limit: rest,
          parts: [],
          mend: { title: `Name it “${rest}”`, safe: true, call: { operation: 'motion.set-clip', args: { clip: alike.id, name: rest } } },
        },
      ];
    return [
      {
        title: 'The rest clip is not first',
        message: own
          ? `“${rest}” stands after “${first.name}”; the platform takes the first clip for the rest pose.`
          : `There is no clip “${rest}”; the platform takes the first clip for the rest pose.`,
        measured: first ? `first is “${first.name}”` : 'no clips',
        limit: `first is “${rest}”`,
        parts: [],
        mend: own
          ? { title: `Put “${rest}” first`, safe: true, call: { operation: 'motion.place-clip', args: { clip: own.id, place: 0 } } }
          : {
              title: `Add “${rest}” in front`,
              safe: true,
              call: { operation: 'motion.add-rest-clip', args: { name: rest, rate: rulebook.motion!.rate ?? 30 } },
            },
      },
    ];
  },
};
