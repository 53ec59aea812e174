import Joi from 'joi';
import { defineOperation, type Key } from '../../document';
import { restValue } from '../formula-track';
import { plural } from '../key-operations';
import { chosenArgs, number, replaceChosen, ToolError, type Chosen } from './chosen';

/** Values further from one of them, or nearer to it: slopes go along. */
export function scaledAbout(key: Key, factor: number, about: number): Key {
  const out: Key = { ...key, value: about + (key.value - about) * factor };
  if (key.slopeIn !== undefined) out.slopeIn = key.slopeIn * factor;
  if (key.slopeOut !== undefined) out.slopeOut = key.slopeOut * factor;
  return out;
}

/** Makes the motion of the chosen keys larger or smaller about rest, or about a value. */
export const scaleValues = defineOperation<Chosen & { factor: number; about?: number }>({
  id: 'motion.scale-values',
  title: (_, { keys, factor }) => `Scale the values of ${plural(keys.length)} to ${Math.round(factor * 100)} %`,
  args: Joi.object({ ...chosenArgs, factor: number(1000).required(), about: number() }),
  change(kit, { factor, about, ...chosen }) {
    const put = replaceChosen(kit, chosen, (keys, { property }) =>
      property === 'shown' ? keys : keys.map((key) => scaledAbout(key, factor, about ?? restValue(property))),
    );
    return { keys: put };
  },
});

/** Turns the motion of the chosen keys the other way round: offsets and turns get the opposite sign, sizes their reciprocal. */
export const flipKeys = defineOperation<Chosen>({
  id: 'motion.flip',
  title: (_, { keys }) => `Flip ${plural(keys.length)}`,
  args: Joi.object(chosenArgs),
  change(kit, chosen) {
    const put = replaceChosen(kit, chosen, (keys, { property, part }) => {
      if (property === 'offset' || property === 'turn') return keys.map((key) => scaledAbout(key, -1, 0));
      if (property !== 'size') return keys;
      if (keys.some(({ value }) => value === 0))
        throw new ToolError(`“${kit.parts[part].name}” is of size 0 at one of the keys, which has no opposite. Leave that key out.`, part);
      return keys.map(({ time, value, easing }) => ({ time, value: 1 / value, easing }));
    });
    return { keys: put };
  },
});
