import { clipsInOrder } from '../../document';
import { count } from '../wording';
import { isIdle } from './idle-track';
import type { Check, Said } from '../types';

/** No track does nothing. */
export const clipsIdleTracks: Check = {
  id: 'clips.idle-tracks',
  family: 'clips',
  stage: 'motion',
  about: 'No track does nothing',
  run({ kit, blobs, rulebook }) {
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const idle = clip.tracks.filter((track) => isIdle(track, blobs));
      if (idle.length === 0 || clip.name === rulebook.motion?.rest) return [];
      return [
        {
          key: clip.id,
          title: 'Tracks that do nothing',
          message: `${count(idle.length, 'track')} of “${clip.name}” ${idle.length === 1 ? 'leaves its part' : 'leave their parts'} at rest all the time.`,
          measured: count(idle.length, 'track'),
          limit: '0',
          parts: [...new Set(idle.map((track) => track.part))],
          mend: {
            title: `Delete ${count(idle.length, 'idle track')}`,
            safe: true,
            call: { operation: 'motion.remove-tracks', args: { clip: clip.id, tracks: idle.map((track) => track.id) } },
          },
        },
      ];
    });
  },
};
