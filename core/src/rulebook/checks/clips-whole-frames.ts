import { clipsInOrder } from '../../document';
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
      // The end of a loop has to meet its start: it is stretched; of others a bit of stillness comes or goes.
      const stretched = clip.loop === 'loop' && clip.tracks.every(({ kind }) => kind !== 'formula');
      const change = `${clip.name}: ${figure(clip.lengthSeconds, 4)} s → ${figure(seconds, 4)} s; ${stretched ? 'all of it goes along' : 'no key moves'}`;
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
            call: { operation: stretched ? 'motion.stretch-clip' : 'motion.set-clip', args: { clip: clip.id, lengthSeconds: seconds } },
            changes: [change],
          },
        },
      ];
    });
  },
};
