import { clipsInOrder } from '../../document';
import type { Check, Said } from '../types';

/** Every clip has a name that the platform plays. */
export const clipsUnknown: Check = {
  id: 'clips.unknown',
  family: 'clips',
  stage: 'motion',
  about: 'Every clip has a name that the platform plays',
  needs: ({ motion }) => (motion?.clips?.length ? null : 'the names of clips (motion.clips)'),
  run({ kit, rulebook }) {
    const names = rulebook.motion!.clips!.map((clip) => clip.name);
    return clipsInOrder(kit).flatMap((clip): Said[] =>
      names.includes(clip.name)
        ? []
        : [
            {
              key: clip.id,
              title: 'Clip that is never played',
              message: `${rulebook.title} plays clips by name and has none named “${clip.name}”.`,
              measured: `“${clip.name}”`,
              limit: names.slice(0, 6).join(', ') + (names.length > 6 ? ' …' : ''),
              parts: [],
            },
          ],
    );
  },
};
