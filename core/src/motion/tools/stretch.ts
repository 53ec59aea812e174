import Joi from 'joi';
import { defineOperation, idSchema, putArray, readArray, type Clip, type Id, type Key } from '../../document';
import { moveMarks } from '../clip-marks';
import { clipOf } from '../clip-operations';
import { plural } from '../key-operations';
import { tidyTime } from '../same-time';
import { chosenArgs, replaceChosen, seconds, spanOf, ToolError, type Chosen } from './chosen';

/** A key whose surroundings take so many times as long: its tangents are as much flatter. */
function slower(key: Key, before: number, after: number): Key {
  const out = { ...key };
  if (key.slopeIn !== undefined) out.slopeIn = key.slopeIn / before;
  if (key.slopeOut !== undefined) out.slopeOut = key.slopeOut / after;
  return out;
}

/** Moves the chosen keys away from a time, or towards it; values stay, and the clip grows where it has to. */
export const stretchKeys = defineOperation<Chosen & { about: number; factor: number }>({
  id: 'motion.stretch',
  title: (_, { keys, factor }) => `Stretch ${plural(keys.length)} to ${Math.round(factor * 100)} %`,
  args: Joi.object({ ...chosenArgs, about: Joi.number().min(0).required(), factor: Joi.number().greater(0).max(1000).required() }),
  change(kit, { about, factor, ...chosen }) {
    const move = (time: number) => about + (time - about) * factor;
    const [first, last] = spanOf(chosen.keys);
    if (move(first) < -1e-6)
      throw new ToolError('The first of the chosen keys would come before the clip begins. Stretch about an earlier time, or by less.');
    const put = replaceChosen(kit, chosen, (keys) => keys.map((key) => ({ ...slower(key, factor, factor), time: move(key.time) })));
    const clip = clipOf(kit, chosen.clip);
    clip.lengthSeconds = Math.max(clip.lengthSeconds, tidyTime(move(last)));
    return { keys: put };
  },
});

/** Makes a clip longer or shorter with everything in it: keys, dense tracks, cues and flags. Formulas of `u` go along by themselves. */
export const stretchClip = defineOperation<{ clip: Id; lengthSeconds: number }>({
  id: 'motion.stretch-clip',
  title: (kit, { clip, lengthSeconds }) => `Stretch clip “${kit.clips[clip]?.name}” to ${Number(lengthSeconds.toFixed(3))} s`,
  args: Joi.object({ clip: idSchema.required(), lengthSeconds: seconds.required() }),
  change(kit, { clip: id, lengthSeconds }, blobs) {
    const clip: Clip = clipOf(kit, id);
    const by = lengthSeconds / clip.lengthSeconds;
    for (const track of clip.tracks) {
      if (track.kind === 'keys') track.keys = track.keys.map((key) => ({ ...slower(key, by, by), time: tidyTime(key.time * by) }));
      else if (track.kind === 'samples') {
        track.times = putArray(
          blobs,
          readArray<Float32Array>(blobs, track.times).map((time) => time * by),
          1,
        );
        if (track.interpolation === 'curve') {
          const width = track.values.size;
          const values = readArray<Float32Array>(blobs, track.values).map((value, i) =>
            Math.floor(i / width) % 3 === 1 ? value : value / by,
          );
          track.values = putArray(blobs, values, width);
        }
      } else if (/(?<![\w.])t(?!\w)/.test(track.source))
        throw new ToolError(
          `The formula of “${kit.parts[track.part].name}” speaks of seconds. Write it with u, or turn it into keys first.`,
          track.part,
        );
    }
    const told = moveMarks(clip, (time) => time * by);
    clip.lengthSeconds = lengthSeconds;
    return { told };
  },
});

/**
 * Stroke bias: the two halves of a cycle get a share of its time each, `bias` and the rest of it; keys move, values stay. A piecewise-
 * linear warp of time.
 *
 * @param middle Where the one half ends, seconds.
 */
export const strokeBias = defineOperation<Chosen & { middle: number; bias: number }>({
  id: 'motion.stroke-bias',
  title: (_, { keys, bias }) => `Give the first stroke of ${plural(keys.length)} ${Math.round(bias * 100)} % of the time`,
  args: Joi.object({ ...chosenArgs, middle: Joi.number().min(0).required(), bias: Joi.number().greater(0).less(1).required() }),
  change(kit, { middle, bias, ...chosen }) {
    const [first, last] = spanOf(chosen.keys);
    if (middle <= first || middle >= last)
      throw new ToolError('The stroke turns round between the first and the last of the chosen keys. Set a time in between.');
    const turn = first + bias * (last - first);
    const [down, up] = [(turn - first) / (middle - first), (last - turn) / (last - middle)];
    const put = replaceChosen(kit, chosen, (keys) =>
      keys.map((key) => ({
        ...slower(key, key.time <= middle ? down : up, key.time < middle ? down : up),
        time: key.time <= middle ? first + (key.time - first) * down : turn + (key.time - middle) * up,
      })),
    );
    return { keys: put };
  },
});
