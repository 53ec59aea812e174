import { trackTimes } from '../../motion';
import { clipsInOrder } from '../../document';
import { count, figure } from '../wording';
import type { Check, Said } from '../types';

/** A loop has no still time after its last key. */
export const clipsTailGap: Check = {
  id: 'clips.tail-gap',
  family: 'clips',
  stage: 'motion',
  about: 'A loop has no still time after its last key',
  run({ kit, blobs }) {
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      if (clip.loop !== 'loop' || clip.tracks.length === 0) return [];
      // A formula moves to the end.
      const last = Math.max(
        ...clip.tracks.map((track) => (track.kind === 'formula' ? clip.lengthSeconds : ([...trackTimes(track, blobs)].at(-1) ?? 0))),
      );
      const frames = Math.round((clip.lengthSeconds - last) * clip.rate);
      if (frames <= 1 || last <= 0) return [];
      return [
        {
          key: clip.id,
          title: 'Still time at the end of a loop',
          message: `Nothing moves in the last ${count(frames, 'frame')} of “${clip.name}”, so it halts each time round.`,
          measured: count(frames, 'frame'),
          limit: '1 frame',
          parts: [],
          mend: {
            title: `End it at the last key, ${figure(last)} s`,
            safe: false,
            call: { operation: 'motion.trim-tail', args: { clip: clip.id } },
            changes: [`${clip.name}: ${figure(clip.lengthSeconds)} s → ${figure(last)} s`],
          },
        },
      ];
    });
  },
};
