import { clipsInOrder } from '../../document';
import { figure } from '../wording';
import type { Check, Said } from '../types';

/** Clips have the platform’s frame rate. */
export const clipsRate: Check = {
  id: 'clips.rate',
  family: 'clips',
  stage: 'motion',
  about: 'Clips have the platform’s frame rate',
  needs: ({ motion }) => (motion?.rate ? null : 'a frame rate (motion.rate)'),
  run({ kit, rulebook }) {
    const rate = rulebook.motion!.rate!;
    return clipsInOrder(kit).flatMap((clip): Said[] =>
      clip.rate === rate
        ? []
        : [
            {
              key: clip.id,
              title: 'Wrong frame rate',
              message: `“${clip.name}” has ${figure(clip.rate)} frames a second; ${rulebook.title} plays ${figure(rate)}.`,
              measured: `${figure(clip.rate)} fps`,
              limit: `${figure(rate)} fps`,
              parts: [],
              // Keys stand in seconds, so that another rate moves none of them.
              mend: {
                title: `Set it to ${figure(rate)} fps`,
                safe: true,
                call: { operation: 'motion.set-clip', args: { clip: clip.id, rate } },
              },
            },
          ],
    );
  },
};
