import { clipsInOrder } from '../../document';
import type { Check, Said } from '../types';

/** Clips loop as the platform plays them. */
export const clipsLoop: Check = {
  id: 'clips.loop',
  family: 'clips',
  stage: 'motion',
  about: 'Clips loop as the platform plays them',
  needs: ({ motion }) =>
    motion?.loops || motion?.clips?.some((clip) => clip.loop !== null) ? null : 'loop modes (motion.loops or motion.clips)',
  run({ kit, rulebook }) {
    const { clips = [], loops } = rulebook.motion!;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const asked = clips.find((one) => one.name === clip.name)?.loop ?? null;
      const fits = asked === null ? !loops || loops.includes(clip.loop) : clip.loop === asked;
      if (fits) return [];
      const to = asked ?? loops![0];
      return [
        {
          key: clip.id,
          title: 'Wrong loop mode',
          message: `“${clip.name}” is set to “${clip.loop}”; ${rulebook.title} plays ${asked ? 'it' : 'clips'} as “${asked ?? loops!.join('” or “')}”.`,
          measured: clip.loop,
          limit: asked ?? loops!.join(', '),
          parts: [],
          mend: {
            title: `Set it to “${to}”`,
            safe: false,
            call: { operation: 'motion.set-clip', args: { clip: clip.id, loop: to } },
            changes: [`${clip.name}: ${clip.loop} → ${to}`],
          },
        },
      ];
    });
  },
};
