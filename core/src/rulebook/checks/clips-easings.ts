import { clipsInOrder } from '../../document';
import { count } from '../wording';
import type { Check, Said } from '../types';

/** Keys are eased in ways that the platform plays. */
export const clipsEasings: Check = {
  id: 'clips.easings',
  family: 'clips',
  stage: 'motion',
  about: 'Keys are eased in ways that the platform plays',
  needs: ({ motion }) => (motion?.easings ? null : 'easings (motion.easings)'),
  run({ kit, rulebook }) {
    const allowed = rulebook.motion!.easings!;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const wrong = clip.tracks.flatMap((track) =>
        track.kind === 'keys'
          ? track.keys
              .slice(0, -1)
              .filter((key) => !allowed.includes(key.easing))
              .map((key) => ({ track, key }))
          : [],
      );
      if (wrong.length === 0) return [];
      const kinds = [...new Set(wrong.map(({ key }) => key.easing))];
      return [
        {
          key: clip.id,
          title: 'Easing is not played',
          message: `${count(wrong.length, 'key')} of “${clip.name}” ${wrong.length === 1 ? 'moves' : 'move'} on by ${kinds.join(' and ')}; the package would hold ${count(wrong.length, 'stretch', 'stretches')} of plain keys instead.`,
          measured: kinds.join(', '),
          limit: allowed.join(', '),
          parts: [...new Set(wrong.map(({ track }) => track.part))],
          mend: allowed.includes('straight')
            ? {
                title: `Bake ${count(new Set(wrong.map(({ track }) => track.id)).size, 'track')} to straight keys`,
                safe: false,
                call: {
                  operation: 'motion.thin',
                  args: {
                    clip: clip.id,
                    tracks: [...new Set(wrong.map(({ track }) => track.id))],
                    fit: 'straight',
                    metres: 0.001,
                    degrees: 0.25,
                  },
                },
                changes: [`${clip.name}: the same motion in straight keys, within 1 mm and 0.25°`],
              }
            : {
                title: `Ease ${count(wrong.length, 'key')}: ${allowed[0]}`,
                safe: false,
                call: {
                  operation: 'motion.set-easing',
                  args: { clip: clip.id, easing: allowed[0], keys: wrong.map(({ track, key }) => ({ track: track.id, time: key.time })) },
                },
                changes: [`${clip.name}: ${kinds.join(', ')} → ${allowed[0]}`],
              },
        },
      ];
    });
  },
};
