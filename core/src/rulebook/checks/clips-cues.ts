import { clipsInOrder } from '../../document';
import { count } from '../wording';
import type { Check, Said } from '../types';

/** Cues are of the kinds that the platform hears. */
export const clipsCues: Check = {
  id: 'clips.cues',
  family: 'clips',
  stage: 'motion',
  about: 'Cues are of the kinds that the platform hears',
  needs: ({ motion }) => (motion?.cues ? null : 'kinds of cues (motion.cues)'),
  run({ kit, rulebook }) {
    const allowed = rulebook.motion!.cues!;
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const wrong = (clip.cues ?? []).filter(({ kind }) => !allowed.includes(kind));
      if (wrong.length === 0) return [];
      const kinds = [...new Set(wrong.map(({ kind }) => kind))];
      return [
        {
          key: clip.id,
          title: 'Cue is not heard',
          message: `“${clip.name}” has ${count(wrong.length, 'cue')} of the kind ${kinds.join(' and ')}, which ${rulebook.title} leaves out.`,
          measured: kinds.join(', '),
          limit: allowed.join(', ') || 'none',
          parts: [...new Set(wrong.flatMap(({ part }) => part ?? []))],
          mend: {
            title: `Take out ${count(wrong.length, 'cue')}`,
            safe: false,
            call: { operation: 'motion.remove-cues', args: { clip: clip.id, cues: wrong.map(({ id }) => id) } },
            changes: wrong.map(({ kind, name, time }) => `${clip.name}: ${kind} “${name}” at ${time.toFixed(2)} s`),
          },
        },
      ];
    });
  },
};
