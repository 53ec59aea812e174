import Joi from 'joi';
import { defineOperation, type Key } from '../../document';
import { clipOf } from '../clip-operations';
import { turnedEasing } from '../easing';
import { plural } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { chosenArgs, pushLater, replaceChosen, spanOf, type Chosen } from './chosen';

/** Keys backwards about the middle of a span: what lay between two of them goes the other way. A hold has no other side and stays one. */
export function backwards(keys: readonly Key[], first: number, last: number): Key[] {
  const n = keys.length - 1;
  return keys.map((_, j) => {
    const { time, value, slopeIn, slopeOut } = keys[n - j];
    const key: Key = { time: first + last - time, value, easing: j < n ? turnedEasing(keys[n - j - 1].easing) : keys[n].easing };
    if (slopeOut !== undefined) key.slopeIn = -slopeOut;
    if (slopeIn !== undefined) key.slopeOut = -slopeIn;
    return key;
  });
}

/** The chosen keys in the opposite order, within the time they take. */
export const reverseKeys = defineOperation<Chosen>({
  id: 'motion.reverse',
  title: (_, { keys }) => `Reverse ${plural(keys.length)}`,
  args: Joi.object(chosenArgs),
  change(kit, chosen) {
    const [first, last] = spanOf(chosen.keys);
    const put = replaceChosen(kit, chosen, (keys) => backwards(keys, first, last));
    return { keys: put };
  },
});

/** The chosen keys again, backwards, after themselves; what comes later is put off, and the clip grows as far as it has to. */
export const returnTrip = defineOperation<Chosen>({
  id: 'motion.return-trip',
  title: (_, { keys }) => `Return trip of ${plural(keys.length)}`,
  args: Joi.object(chosenArgs),
  change(kit, chosen) {
    const [first, last] = spanOf(chosen.keys);
    const pushed = pushLater(kit, chosen, last, last - first);
    const put = replaceChosen(kit, chosen, (keys) => {
      // A key at t goes to 2·last − t.
      const back = backwards(keys, last, last);
      const out = keys[keys.length - 1];
      // Where it turns round one key stands for two.
      if (Math.abs(back[0].time - out.time) < SAME_TIME) {
        const turn: Key = { ...out, easing: back[0].easing };
        if (out.slopeIn !== undefined) turn.slopeOut = -out.slopeIn;
        return [...keys.slice(0, -1), turn, ...back.slice(1)];
      }
      return [...keys, ...back];
    });
    const clip = clipOf(kit, chosen.clip);
    clip.lengthSeconds = pushed ? clip.lengthSeconds + last - first : Math.max(clip.lengthSeconds, 2 * last - first);
    return { keys: put };
  },
});
