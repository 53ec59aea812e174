import Joi from 'joi';
import { defineOperation } from '../../document';
import { clipOf } from '../clip-operations';
import { eachTrack, plural } from '../key-operations';
import { chosenArgs, pushLater, replaceChosen, spanOf, type Chosen } from './chosen';

/**
 * The chosen keys again, so many times more; what comes later is put off. Where they do not end as they begin, a frame lies between two
 * rounds.
 *
 * @param gapSeconds Between two rounds.
 */
export const repeatKeys = defineOperation<Chosen & { times: number; gapSeconds: number }>({
  id: 'motion.repeat',
  title: (_, { keys, times }) => `Repeat ${plural(keys.length)} ${times === 1 ? 'once' : `${times} times`}`,
  args: Joi.object({
    ...chosenArgs,
    times: Joi.number().integer().min(1).max(1000).required(),
    gapSeconds: Joi.number().min(0).max(3600).required(),
  }),
  change(kit, { times, gapSeconds, ...chosen }) {
    const clip = clipOf(kit, chosen.clip);
    const [first, last] = spanOf(chosen.keys);
    let meets = true;
    eachTrack(kit, chosen.clip, chosen.keys, (track, isChosen) => {
      const keys = track.keys.filter(isChosen);
      if (keys.length > 0 && Math.abs(keys[0].value - keys[keys.length - 1].value) > 1e-9) meets = false;
    });
    // Where the end is the beginning, the two are one key; else a frame lies between.
    const seam = meets && last > first ? 0 : 1 / clip.rate;
    const period = last - first + (gapSeconds > 0 ? gapSeconds : seam);
    const grown = times * period;
    const pushed = pushLater(kit, chosen, last, grown);
    const put = replaceChosen(kit, chosen, (keys) =>
      Array.from({ length: times + 1 }, (_, round) => keys.map((key) => ({ ...key, time: key.time + round * period }))).flat(),
    );
    clip.lengthSeconds = pushed ? clip.lengthSeconds + grown : Math.max(clip.lengthSeconds, last + grown);
    return { keys: put };
  },
});
