import Joi from 'joi';
import { defineOperation, type Key } from '../../document';
import { clipOf } from '../clip-operations';
import { eachTrack, insertKey, plural } from '../key-operations';
import { SAME_TIME, tidyTime } from '../same-time';
import { chosenArgs, seconds as secondsSchema, ToolError, type Chosen } from './chosen';

/**
 * Lets the motion run past each chosen key and come to rest there: swings to both sides, each so much weaker than the one before (a damped
 * oscillation sampled at its extremes). Nothing but the time up to the next key is used.
 *
 * @param share Of the move into the key, how far the first swing goes past it. @param decay Of each swing, what the next one is.
 */
export const settle = defineOperation<Chosen & { share: number; swings: number; decay: number; seconds: number }>({
  id: 'motion.settle',
  title: (_, { keys }) => `Settle at ${plural(keys.length)}`,
  args: Joi.object({
    ...chosenArgs,
    share: Joi.number().greater(0).max(2).required(),
    swings: Joi.number().integer().min(1).max(20).required(),
    decay: Joi.number().greater(0).less(1).required(),
    seconds: secondsSchema.required(),
  }),
  change(kit, { share, swings, decay, seconds, ...chosen }) {
    const clip = clipOf(kit, chosen.clip);
    let settled = 0;
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      const made: Key[] = [];
      track.keys.forEach((key, i) => {
        const before = track.keys[i - 1];
        if (!isChosen(key) || !before || before.value === key.value) return;
        const next = track.keys[i + 1];
        const room = (next ? next.time : Math.max(clip.lengthSeconds, key.time + seconds)) - key.time;
        const time = Math.min(seconds, next ? room - 1 / clip.rate : room);
        if (time < (swings + 1) * SAME_TIME) return;
        settled++;
        const move = key.value - before.value;
        key.easing = 'curve';
        for (let k = 0; k < swings; k++) {
          made.push({
            time: tidyTime(key.time + (time * (k + 1)) / (swings + 1)),
            value: key.value + (k % 2 === 0 ? 1 : -1) * share * decay ** k * move,
            easing: 'curve',
          });
        }
        made.push({ time: tidyTime(key.time + time), value: key.value, easing: next ? 'hold' : 'curve' });
        if (!next) clip.lengthSeconds = Math.max(clip.lengthSeconds, tidyTime(key.time + time));
      });
      for (const key of made) insertKey(track.keys, key);
    });
    if (settled === 0)
      throw new ToolError(
        'None of the chosen keys is a stop: each needs a move into it and time after it. Choose others, or move the next key later.',
      );
  },
});
