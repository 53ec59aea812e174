import { clipsInOrder, type Clip } from '../../document';
import { libraryMotionFor, rolesOf } from '../../motion';
import type { Check, CheckContext, ClipSlot, Mend, Said } from '../types';
import { count, figure } from '../wording';
import { isIdle } from './idle-track';

/** Whether a clip leaves everything where it is at rest. */
export const movesNothing = ({ blobs }: CheckContext, { tracks }: Clip): boolean => tracks.every((track) => isIdle(track, blobs));

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/** The library's motion of a slot's name, put on the skeleton: as a new clip, or into the one that moves nothing. */
function libraryMend({ kit, rulebook }: CheckContext, { name }: ClipSlot, empty?: Clip): Mend | undefined {
  const motion = libraryMotionFor(name, rolesOf(kit));
  if (!motion) return undefined;
  const rate = rulebook.motion?.rate ?? 30;
  const clip = empty?.id ?? `${motion.id}-of-library`;
  if (!empty && kit.clips[clip]) return undefined;
  return {
    title: `Put “${motion.title}” of the library on`,
    safe: false,
    call: { operation: 'motion.put', args: { motion: motion.id, clip, name, rate, inPlace: true } },
    changes: [
      `${empty ? 'into the clip' : 'a new clip'} “${name}”: ${motion.about}`,
      `${figure(motion.seconds, 2)} s, ${count(Math.round(motion.seconds * rate), 'frame')}, fitted to this skeleton, in place`,
    ],
  };
}

/** Clips that the platform asks for by name are there, and move something. */
export const clipsRequired: Check = {
  id: 'clips.required',
  family: 'clips',
  stage: 'motion',
  about: 'Clips that the platform asks for by name are there, and move something',
  needs: ({ motion }) => (motion?.clips?.some((clip) => clip.needed) ? null : 'clips that are needed (motion.clips)'),
  run(context) {
    const { kit, rulebook } = context;
    const clips = clipsInOrder(kit);
    return rulebook.motion!.clips!.flatMap((slot): Said[] => {
      const { name, needed, about } = slot;
      if (!needed) return [];
      const asked = `${rulebook.title} asks for a clip “${name}”: ${about}`;
      const own = clips.find((clip) => clip.name === name);
      if (own) {
        if (name === rulebook.motion!.rest || !movesNothing(context, own)) return [];
        return [
          {
            key: name,
            title: `Clip “${name}” moves nothing`,
            message: `${asked} The kit’s own leaves everything at rest.`,
            measured: own.tracks.length === 0 ? 'no tracks' : `${count(own.tracks.length, 'track')} at rest`,
            limit: 'something moves',
            parts: [],
            mend: libraryMend(context, slot, own),
          },
        ];
      }
      const near = clips.find((clip) => plain(clip.name) === plain(name));
      return [
        {
          key: name,
          title: `Clip “${name}” is missing`,
          message: asked,
          measured: near ? `“${near.name}”` : 'no such clip',
          limit: `“${name}”`,
          parts: [],
          mend: near
            ? {
                title: `Rename “${near.name}” to “${name}”`,
                safe: true,
                call: { operation: 'motion.set-clip', args: { clip: near.id, name } },
              }
            : libraryMend(context, slot),
        },
      ];
    });
  },
};
