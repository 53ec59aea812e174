import { clipsInOrder } from '../../document';
import { isPlayed } from '../played-tracks';
import { count } from '../wording';
import type { Check, Said } from '../types';

/** Clips move only what the platform lets them move. */
export const clipsTracks: Check = {
  id: 'clips.tracks',
  family: 'clips',
  stage: 'motion',
  about: 'Clips move only what the platform lets them move',
  needs: ({ motion }) => (motion?.tracks ? null : 'what clips may move (motion.tracks)'),
  run({ kit, rulebook }) {
    const allowed = rulebook.motion!.tracks!;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const wrong = clip.tracks.filter(({ property }) => !isPlayed(rulebook, property));
      if (wrong.length === 0) return [];
      const kinds = [...new Set(wrong.map((track) => track.property))];
      return [
        {
          key: clip.id,
          title: 'Track is not played',
          message: `“${clip.name}” has ${count(wrong.length, 'track')} of ${kinds.join(' and ')}, which ${rulebook.title} leaves out.`,
          measured: kinds.join(', '),
          limit: allowed.join(', '),
          parts: [...new Set(wrong.map((track) => track.part))],
          mend: {
            title: `Delete ${count(wrong.length, 'track')}`,
            safe: false,
            call: { operation: 'motion.remove-tracks', args: { clip: clip.id, tracks: wrong.map((track) => track.id) } },
            changes: wrong.map((track) => `${kit.parts[track.part].name}: its ${track.property} in ${clip.name}`),
          },
        },
      ];
    });
  },
};
