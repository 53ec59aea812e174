import { clipsInOrder } from '../../document';
import { figure } from '../wording';
import type { Check, Said } from '../types';

/** All clips are equally long: the platform plays them on one shared timeline. */
export const clipsOneTimeline: Check = {
  id: 'clips.one-timeline',
  family: 'clips',
  stage: 'motion',
  about: 'All clips are equally long: the platform plays them on one shared timeline',
  run({ kit }) {
    const clips = clipsInOrder(kit);
    const longest = Math.max(0, ...clips.map((clip) => clip.lengthSeconds));
    return clips.flatMap((clip): Said[] =>
      Math.abs(clip.lengthSeconds - longest) < 1e-4
        ? []
        : [
            {
              key: clip.id,
              title: 'Ends before the others',
              message: `“${clip.name}” is ${figure(clip.lengthSeconds)} s long; the shared timeline is ${figure(longest)} s, and what ends early stands still.`,
              measured: `${figure(clip.lengthSeconds)} s`,
              limit: `${figure(longest)} s`,
              parts: [],
              mend: {
                title: `Lengthen it to ${figure(longest)} s`,
                safe: false,
                call: { operation: 'motion.set-clip', args: { clip: clip.id, lengthSeconds: longest } },
                changes: [`${clip.name}: ${figure(clip.lengthSeconds)} s → ${figure(longest)} s; it holds its last pose`],
              },
            },
          ],
    );
  },
};
