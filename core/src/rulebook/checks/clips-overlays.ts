import { clipsInOrder } from '../../document';
import type { Check, Said } from '../types';

/** Overlays are there only where the platform runs some. */
export const clipsOverlays: Check = {
  id: 'clips.overlays',
  family: 'clips',
  stage: 'motion',
  about: 'Overlays are there only where the platform runs them along',
  needs: ({ motion }) => (motion?.overlays === undefined ? 'whether overlays run (motion.overlays)' : null),
  run({ kit, rulebook }) {
    if (rulebook.motion!.overlays) return [];
    return clipsInOrder(kit).flatMap((clip): Said[] =>
      clip.overlay
        ? [
            {
              key: clip.id,
              title: 'Overlay is not run',
              message: `“${clip.name}” runs along with the others here; ${rulebook.title} plays one clip at a time, and this one only when it is called.`,
              measured: `${clip.overlay.place} the others`,
              limit: 'one clip at a time',
              parts: clip.overlay.parts ?? [],
              mend: {
                title: 'Make it an ordinary clip',
                safe: false,
                call: { operation: 'motion.set-overlay', args: { clip: clip.id, overlay: null } },
                changes: [`${clip.name}: no longer runs along`],
              },
            },
          ]
        : [],
    );
  },
};
