import { trackTimes } from '../../motion';
import { clipsInOrder } from '../../document';
import { count, figure } from '../wording';
import type { Check, Said } from '../types';

/** No key stands after its clip’s end. */
export const clipsOutsideKeys: Check = {
  id: 'clips.outside-keys',
  family: 'clips',
  stage: 'motion',
  about: 'No key stands after its clip’s end',
  run({ kit, blobs }) {
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const end = clip.lengthSeconds + 1e-6;
      const beyond = clip.tracks.map((track) => ({
        track,
        keys: [...trackTimes(track, blobs)].filter((time) => time > end).length,
      }));
      const wrong = beyond.filter(({ keys }) => keys > 0);
      if (wrong.length === 0) return [];
      const keys = wrong.reduce((sum, one) => sum + one.keys, 0);
      return [
        {
          key: clip.id,
          title: 'Keys after the end',
          message: `${count(keys, 'key stands', 'keys stand')} after the end of “${clip.name}” at ${figure(clip.lengthSeconds)} s, and ${keys === 1 ? 'is' : 'are'} never played.`,
          measured: count(keys, 'key'),
          limit: `within ${figure(clip.lengthSeconds)} s`,
          parts: [...new Set(wrong.map(({ track }) => track.part))],
          mend: {
            title: 'Cut at the end',
            safe: true,
            call: { operation: 'motion.trim-clip', args: { clip: clip.id, from: 0, to: clip.lengthSeconds } },
          },
        },
      ];
    });
  },
};
