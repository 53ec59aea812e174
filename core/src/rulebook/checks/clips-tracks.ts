import { clipsInOrder, type Track } from '../../document';
import { count } from '../wording';
import type { Check, Said, TrackKind } from '../types';

/** What a platform plays a track by: what is not shown is packaged as being of no size. */
const AS_WELL: Record<Track['property'], TrackKind[]> = {
  offset: ['offset'],
  turn: ['turn', 'rotation'],
  rotation: ['rotation', 'turn'],
  size: ['size'],
  shown: ['shown', 'size'],
  weight: ['weights'],
  weights: ['weights'],
};

/** Clips move only what the platform lets them move. */
export const clipsTracks: Check = {
  id: 'clips.tracks',
  family: 'clips',
  stage: 'motion',
  about: 'Clips move only what the platform lets them move',
  needs: ({ motion }) => (motion?.tracks ? null : 'what clips may move (motion.tracks)'),
  run({ kit, rulebook }) {
    const allowed = rulebook.motion!.tracks!;
    const fits = ({ property }: Track) => AS_WELL[property].some((one) => allowed.includes(one));
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const wrong = clip.tracks.filter((track) => !fits(track));
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
