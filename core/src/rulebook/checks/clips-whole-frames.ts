import { clipsInOrder } from '../../motion';
import { figure } from '../wording';
import type { Check, Said } from '../types';

/** Clips are whole frames long. */
export const clipsWholeFrames: Check = {
  id: 'clips.whole-frames',
  family: 'clips',
  stage: 'motion',
  about: 'Clips are whole frames long',
  run({ kit, rulebook }) {
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const rate = rulebook.motion?.rate ?? clip.rate;
      const frames = clip.lengthSeconds * rate;
      const whole = Math.max(1, Math.round(frames));
      if (Math.abs(frames - whole) < 1e-4) return [];
      const seconds = Number((whole / rate).toPrecision(12));
      return [
        {
          key: clip.id,
          title: 'Length is not whole frames',
          message: `“${clip.name}” is ${figure(frames, 2)} frames long at ${figure(rate)} frames a second.`,
          measured: `${figure(frames, 2)} frames`,
          limit: `${whole} frames`,
          parts: [],
          mend: {
            title: `Make it ${whole} frames`,
            safe: false,
            call: { operation: 'motion.set-clip', args: { clip: clip.id, lengthSeconds: seconds } },
            changes: [`${clip.name}: ${figure(clip.lengthSeconds, 4)} s → ${figure(seconds, 4)} s; no key moves`],
          },
        },
      ];
    });
  },
};
