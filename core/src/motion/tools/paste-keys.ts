import Joi from 'joi';
import {
  defineOperation,
  idSchema,
  KEY_PROPERTIES,
  keySchema,
  newId,
  partOf,
  type Id,
  type Key,
  type KeyProperty,
  type KeyTrack,
  type Kit,
} from '../../document';
import { clipOf } from '../clip-operations';
import { eachTrack, insertKey, plural, type KeyRef } from '../key-operations';
import { tidyTime } from '../same-time';
import { spanOf, trackFor, type Chosen } from './chosen';

/** Keys apart from their clip; their times count from the earliest of them. */
export interface CopiedKeys {
  part: Id;
  property: KeyProperty;
  axis: number;
  keys: Key[];
}

/** The chosen keys, to be pasted. */
export function copyKeys(kit: Kit, { clip, keys }: Chosen): CopiedKeys[] {
  const [first] = spanOf(keys);
  const out: CopiedKeys[] = [];
  eachTrack(kit, clip, keys, ({ part, property, axis, keys: all }: KeyTrack, isChosen) => {
    const chosen = all.filter(isChosen).map((key) => ({ ...key, time: tidyTime(key.time - first) }));
    if (chosen.length > 0) out.push({ part, property, axis, keys: chosen });
  });
  return out;
}

/** Puts copied keys into a clip at a time; onto another part, where one is named. The clip grows where it has to. */
export const pasteKeys = defineOperation<{ clip: Id; time: number; tracks: CopiedKeys[]; onto?: Id }>({
  id: 'motion.paste-keys',
  title: (kit, { tracks, onto, time }) =>
    `Paste ${plural(tracks.reduce((sum, { keys }) => sum + keys.length, 0))} ${onto === undefined ? '' : `onto “${kit.parts[onto]?.name}” `}at ${time.toFixed(2)} s`,
  args: Joi.object({
    clip: idSchema.required(),
    time: Joi.number().min(0).required(),
    tracks: Joi.array()
      .items(
        Joi.object({
          part: idSchema.required(),
          property: Joi.valid(...KEY_PROPERTIES).required(),
          axis: Joi.number().integer().min(0).required(),
          keys: Joi.array().items(keySchema).min(1).required(),
        }),
      )
      .min(1)
      .required(),
    onto: idSchema,
  }),
  change(kit, { clip: id, time, tracks, onto }) {
    const clip = clipOf(kit, id);
    const put: KeyRef[] = [];
    for (const { part, property, axis, keys } of tracks) {
      partOf(kit, onto ?? part);
      const track = trackFor(clip, onto ?? part, property, axis, newId);
      for (const key of keys) {
        const at = tidyTime(time + key.time);
        put.push({ track: track.id, time: insertKey(track.keys, { ...key, time: at }) });
        clip.lengthSeconds = Math.max(clip.lengthSeconds, at);
      }
    }
    return { keys: put, fresh: true };
  },
});
