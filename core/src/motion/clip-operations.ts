import Joi from 'joi';
import { defineOperation, idSchema, KitError, LOOP_MODES, newId, partOf, type Clip, type Id, type Kit, type LoopMode } from '../document';

/** A clip that is no longer in the kit. */
export class ClipMissingError extends KitError {
  constructor(id: Id) {
    super('clip-missing', 'That clip is no longer in the kit. Choose another one.', id);
  }
}

/** @throws {ClipMissingError} */
export function clipOf(kit: Kit, id: Id): Clip {
  const clip = kit.clips[id];
  if (!clip) throw new ClipMissingError(id);
  return clip;
}

/** Makes a clip without tracks; length in seconds, rate in frames a second. */
export const addClip = defineOperation<{ id?: Id; name: string; lengthSeconds: number; rate: number; loop: LoopMode }>({
  id: 'motion.add-clip',
  title: (_, { name }) => `Add clip “${name}”`,
  args: Joi.object({
    id: idSchema,
    name: Joi.string().min(1).max(200).required(),
    lengthSeconds: Joi.number().positive().max(3600).required(),
    rate: Joi.number().min(1).max(240).required(),
    loop: Joi.valid(...LOOP_MODES).required(),
  }),
  change(kit, args) {
    const id = args.id ?? newId();
    const order = Math.max(-1, ...Object.values(kit.clips).map((clip) => clip.order)) + 1;
    kit.clips[id] = { id, name: args.name, order, lengthSeconds: args.lengthSeconds, rate: args.rate, loop: args.loop, tracks: [] };
    return { clip: id };
  },
});

type ClipFields = Partial<Pick<Clip, 'name' | 'lengthSeconds' | 'rate' | 'loop'>>;

/** Changes a clip's name, length (seconds), rate, order, loop, group or way of running beside others. */
export const setClip = defineOperation<{ clip: Id } & ClipFields>({
  id: 'motion.set-clip',
  title: (kit, { clip }) => `Change clip “${kit.clips[clip]?.name}”`,
  args: Joi.object({
    clip: idSchema.required(),
    name: Joi.string().min(1).max(200),
    lengthSeconds: Joi.number().positive().max(3600),
    rate: Joi.number().min(1).max(240),
    loop: Joi.valid(...LOOP_MODES),
  }),
  change(kit, { clip, ...fields }) {
    Object.assign(clipOf(kit, clip), fields);
  },
});

/** Deletes a clip, and what refers to it. */
export const removeClip = defineOperation<{ clip: Id }>({
  id: 'motion.remove-clip',
  title: (kit, { clip }) => `Delete clip “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required() }),
  change(kit, { clip }) {
    clipOf(kit, clip);
    delete kit.clips[clip];
  },
});

/** Deletes one track of a clip. */
export const removeTrack = defineOperation<{ clip: Id; track: Id }>({
  id: 'motion.remove-track',
  title: (kit, { clip, track }) => {
    const part = kit.clips[clip]?.tracks.find((one) => one.id === track)?.part;
    return `Delete a track of “${part === undefined ? '' : partOf(kit, part).name}”`;
  },
  args: Joi.object({ clip: idSchema.required(), track: idSchema.required() }),
  change(kit, { clip, track }) {
    const one = clipOf(kit, clip);
    one.tracks = one.tracks.filter((other) => other.id !== track);
  },
});
