import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, newId, partOf, type Id, type KeyProperty } from '../../document';
import { clipOf } from '../clip-operations';
import { insertKey } from '../key-operations';
import { SAME_TIME } from '../same-time';
import { trackFor } from './chosen';

/** Lets parts appear or vanish at a time: a key that holds, on “shown”, or on all three sizes for platforms that know no other way. */
export const showParts = defineOperation<{ clip: Id; parts: Id[]; time: number; shown: boolean; as: 'shown' | 'size' }>({
  id: 'motion.show-parts',
  title: (kit, { parts, shown, time }) =>
    `Let ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`} ${shown ? 'appear' : 'vanish'} at ${time.toFixed(2)} s`,
  args: Joi.object({
    clip: idSchema.required(),
    parts: idsSchema.required(),
    time: Joi.number().min(0).required(),
    shown: Joi.boolean().required(),
    as: Joi.valid('shown', 'size').required(),
  }),
  change(kit, { clip: id, parts, time, shown, as }) {
    const clip = clipOf(kit, id);
    for (const part of parts) {
      partOf(kit, part);
      for (const [property, axis] of (as === 'shown' ? [['shown', 0]] : [0, 1, 2].map((one) => ['size', one])) as [KeyProperty, number][]) {
        const track = trackFor(clip, part, property, axis, newId);
        // Before the first key a track is as at that key: what vanishes later is there until then, and the other way round.
        if (track.keys.length === 0 && time > SAME_TIME) track.keys.push({ time: 0, value: shown ? 0 : 1, easing: 'hold' });
        const before = track.keys.findLast((key) => key.time < time - SAME_TIME);
        if (before) before.easing = 'hold';
        insertKey(track.keys, { time, value: shown ? 1 : 0, easing: 'hold' });
      }
    }
  },
});
