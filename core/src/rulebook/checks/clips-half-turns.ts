import { clipsInOrder } from '../../document';
import { count, figure } from '../wording';
import { isPlayed } from '../played-tracks';
import type { Check, Said } from '../types';

/** No turn of 180° or more lies between two keys: platforms that interpolate quaternions go the short way. */
export const clipsHalfTurns: Check = {
  id: 'clips.half-turns',
  family: 'clips',
  stage: 'motion',
  about: 'No turn of 180° or more lies between two keys: platforms that interpolate quaternions go the short way',
  run({ kit, rulebook }) {
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const wrong = clip.tracks.flatMap((track) =>
        track.kind === 'keys' && track.property === 'turn' && isPlayed(rulebook, 'turn')
          ? track.keys
              .slice(1)
              .flatMap((key, i) =>
                track.keys[i].easing !== 'hold' && Math.abs(key.value - track.keys[i].value) >= 180
                  ? [{ track, from: track.keys[i], by: Math.abs(key.value - track.keys[i].value) }]
                  : [],
              )
          : [],
      );
      if (wrong.length === 0) return [];
      const most = wrong.reduce((a, b) => (b.by > a.by ? b : a));
      const straight = wrong.filter(({ from }) => from.easing === 'straight');
      return [
        {
          key: clip.id,
          title: 'Half a turn between two keys',
          message: `“${clip.name}” turns “${kit.parts[most.track.part].name}” by ${figure(most.by, 1)}° from the key at ${figure(most.from.time)} s to the next one; ${rulebook.title} would go the other way round.`,
          measured: `${figure(most.by, 1)}°`,
          limit: 'less than 180°',
          share: most.by / 180,
          parts: [...new Set(wrong.map(({ track }) => track.part))],
          mend:
            straight.length === wrong.length
              ? {
                  title: 'Set keys in between',
                  safe: true,
                  call: { operation: 'motion.divide-turns', args: { clip: clip.id, mostDegrees: 90 } },
                }
              : {
                  title: 'Bake these turns to straight keys',
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
                  changes: [`${clip.name}: ${count(wrong.length, 'turn')} as straight keys, within 1 mm and 0.25°`],
                },
        },
      ];
    });
  },
};
