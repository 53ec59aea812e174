import Joi from 'joi';
import { defineOperation, type Key, type KeyTrack } from '../../document';
import { eachTrack, plural } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { splitKeys, valueOf } from '../split-keys';
import { chosenArgs, replaceChosen, ToolError, type Chosen } from './chosen';

/** Pieces between two keys whose length is added up to that of the path. */
const PIECES = 16;

const bare = ({ time, value, easing }: Key): Key => ({ time, value, easing });

/**
 * Spaces the chosen keys evenly between the first and the last: in time, or so that each part goes along its path at one speed. Values and
 * their order stay; tangents that were said are chosen anew. For an even speed keys are made on all axes of a part wherever one of them
 * has one.
 */
export const evenOut = defineOperation<Chosen & { by: 'time' | 'speed' }>({
  id: 'motion.even-out',
  title: (_, { keys, by }) => `Even out ${plural(keys.length)} by ${by}`,
  args: Joi.object({ ...chosenArgs, by: Joi.valid('time', 'speed').required() }),
  change(kit, { by, ...chosen }) {
    if (by === 'time') {
      const put = replaceChosen(kit, chosen, (keys) => {
        const [first, last] = [keys[0].time, keys[keys.length - 1].time];
        return keys.map((key, i) => (keys.length < 3 ? key : { ...bare(key), time: first + ((last - first) * i) / (keys.length - 1) }));
      });
      return { keys: put };
    }
    const groups = new Map<string, { track: KeyTrack; times: number[] }[]>();
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      const times = track.keys.filter(isChosen).map(({ time }) => time);
      const group = `${track.part} ${track.property}`;
      if (times.length > 0) groups.set(group, [...(groups.get(group) ?? []), { track, times }]);
    });
    for (const group of groups.values()) {
      const times = [...new Set(group.flatMap((one) => one.times))]
        .sort((a, b) => a - b)
        .filter((time, i, all) => i === 0 || time - all[i - 1] > SAME_TIME);
      if (times.length < 3) continue;
      for (const { track } of group) for (const time of times) track.keys = splitKeys(track.keys, time);
      const along = lengthsAt(
        group.map(({ track }) => track.keys),
        times,
      );
      const whole = along[along.length - 1];
      if (whole === 0)
        throw new ToolError(
          `“${kit.parts[group[0].track.part].name}” does not move between the chosen keys, so it has no speed. Choose keys of different values.`,
          group[0].track.part,
        );
      const [first, last] = [times[0], times[times.length - 1]];
      const warp = times.map((_, i) => first + ((last - first) * along[i]) / whole);
      for (const { track } of group) {
        const moved = track.keys.map((key) => {
          const i = times.findIndex((time) => Math.abs(time - key.time) < SAME_TIME);
          return i < 0 ? key : { ...bare(key), time: warp[i] };
        });
        // Places where the path stands still come to the same time: one key is enough.
        track.keys = moved.filter((key, i) => i === 0 || key.time - moved[i - 1].time > SAME_TIME);
      }
    }
  },
});

/** How far along the path through several tracks each time is, in the tracks' unit. */
function lengthsAt(tracks: readonly (readonly Key[])[], times: readonly number[]): number[] {
  const at = (time: number) => tracks.map((keys) => valueOf(keys, time, 0));
  const out = [0];
  let before = at(times[0]);
  for (let i = 1; i < times.length; i++) {
    let length = out[i - 1];
    for (let piece = 1; piece <= PIECES; piece++) {
      const now = at(times[i - 1] + ((times[i] - times[i - 1]) * piece) / PIECES);
      length += Math.hypot(...now.map((value, k) => value - before[k]));
      before = now;
    }
    out.push(length);
  }
  return out;
}
