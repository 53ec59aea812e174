import { clipsInOrder } from '../../document';
import type { Check, Said } from '../types';

/** Clips that the platform asks for by name are there. */
export const clipsRequired: Check = {
  id: 'clips.required',
  family: 'clips',
  stage: 'motion',
  about: 'Clips that the platform asks for by name are there',
  needs: ({ motion }) => (motion?.clips?.some((clip) => clip.needed) ? null : 'clips that are needed (motion.clips)'),
  run({ kit, rulebook }) {
    const clips = clipsInOrder(kit);
    return rulebook.motion!.clips!.flatMap(({ name, needed, about }): Said[] => {
      if (!needed || clips.some((clip) => clip.name === name)) return [];
      const near = clips.find((clip) => clip.name.toLowerCase().replace(/[^a-z0-9]/g, '') === name.toLowerCase().replace(/[^a-z0-9]/g, ''));
      return [
        {
          key: name,
          title: `Clip “${name}” is missing`,
          message: `${rulebook.title} asks for a clip “${name}”: ${about}`,
          measured: near ? `“${near.name}”` : 'no such clip',
          limit: `“${name}”`,
          parts: [],
          mend: near
            ? {
                title: `Rename “${near.name}” to “${name}”`,
                safe: true,
                call: { operation: 'motion.set-clip', args: { clip: near.id, name } },
              }
            : undefined,
        },
      ];
    });
  },
};
