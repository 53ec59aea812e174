import Joi from 'joi';
import { defineOperation, EASING_FAMILIES, type EasingFamily, type EasingWay, type Key } from '../../document';
import { easingShape } from '../easing';
import { eachTrack, plural } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { chosenArgs, type Chosen } from './chosen';

/**
 * Brake keys: before each chosen key (and after it, if wanted) straight keys at t − h·rᵏ with values on an ease, so that motion in
 * straight lines slows into it and picks up out of it.
 *
 * @param count How many on a side. @param reach h as a share of the way to the neighbour. @param ratio r: each is so much nearer than the
 * one before.
 */
export const brakeKeys = defineOperation<
  Chosen & { count: number; reach: number; ratio: number; family: EasingFamily; sides: 'before' | 'after' | 'both' }
>({
  id: 'motion.brake-keys',
  title: (_, { keys, count }) => `Set ${count} brake keys at each of ${plural(keys.length)}`,
  args: Joi.object({
    ...chosenArgs,
    count: Joi.number().integer().min(1).max(20).required(),
    reach: Joi.number().greater(0).less(1).required(),
    ratio: Joi.number().greater(0).less(1).required(),
    family: Joi.valid(...EASING_FAMILIES).required(),
    sides: Joi.valid('before', 'after', 'both').required(),
  }),
  change(kit, { count, reach, ratio, family, sides, ...chosen }) {
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      track.keys = track.keys.flatMap((from, i): Key[] => {
        const to = track.keys[i + 1];
        if (!to) return [from];
        const into = isChosen(to) && sides !== 'after';
        const out = isChosen(from) && sides !== 'before';
        if (!into && !out) return [from];
        const oneSided: EasingWay = into ? 'out' : 'in';
        const way = into && out ? 'both' : oneSided;
        const shape = easingShape(`${family}-${way}`);
        const span = to.time - from.time;
        const near = Array.from({ length: count }, (_, k) => reach * ratio ** k);
        const at = [...new Set([...(into ? near.map((u) => 1 - u) : []), ...(out ? near : [])])].sort((a, b) => a - b);
        const { slopeOut: _, ...kept } = from;
        const apart = at.filter((u, n) => (u - (n === 0 ? 0 : at[n - 1])) * span > SAME_TIME && (1 - u) * span > SAME_TIME);
        return [
          { ...kept, easing: 'straight' },
          ...apart.map((u): Key => ({
            time: Number((from.time + u * span).toFixed(9)),
            value: from.value + shape(u) * (to.value - from.value),
            easing: 'straight',
          })),
        ];
      });
    });
  },
});
