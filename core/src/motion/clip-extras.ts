import Joi from 'joi';
import {
  constantsSchema,
  cueSchema,
  defineOperation,
  flagSchema,
  idSchema,
  idsSchema,
  KitError,
  overlaySchema,
  partOf,
  type Cue,
  type Flag,
  type Id,
  type Overlay,
} from '../document';
import { clipOf } from './clip-operations';

/** Puts a clip into a group of the list; the empty name takes it out of its group. */
export const setGroup = defineOperation<{ clips: Id[]; group: string }>({
  id: 'motion.set-group',
  title: (_, { clips, group }) =>
    `${group === '' ? 'Take' : 'Put'} ${clips.length === 1 ? 'a clip' : `${clips.length} clips`} ${group === '' ? 'out of the group' : `into “${group}”`}`,
  args: Joi.object({ clips: idsSchema.required(), group: Joi.string().allow('').max(120).required() }),
  change(kit, { clips, group }) {
    for (const id of clips) {
      const clip = clipOf(kit, id);
      if (group === '') delete clip.group;
      else clip.group = group;
    }
  },
});

/** Makes a clip an overlay, which always runs with the others, or an ordinary clip again. */
export const setOverlay = defineOperation<{ clip: Id; overlay: Overlay | null }>({
  id: 'motion.set-overlay',
  title: (kit, { clip, overlay }) =>
    overlay ? `Run “${kit.clips[clip]?.name}” ${overlay.place} the others` : `“${kit.clips[clip]?.name}” is no overlay any more`,
  args: Joi.object({ clip: idSchema.required(), overlay: overlaySchema.allow(null).required() }),
  change(kit, { clip: id, overlay }) {
    const clip = clipOf(kit, id);
    overlay?.parts?.forEach((part) => partOf(kit, part));
    if (overlay) clip.overlay = overlay;
    else delete clip.overlay;
  },
});

/** A cue or flag after the end of its clip. */
export class LateError extends KitError {
  constructor(what: string, time: number, length: number) {
    super('late', `A ${what} at ${time.toFixed(2)} s would never come: the clip ends at ${length.toFixed(2)} s. Choose an earlier time.`);
  }
}

/** Sets a cue, or changes the one of that id. */
export const setCue = defineOperation<{ clip: Id; cue: Cue }>({
  id: 'motion.set-cue',
  title: (_, { cue }) => `Cue ${cue.kind} “${cue.name}” at ${cue.time.toFixed(2)} s`,
  args: Joi.object({ clip: idSchema.required(), cue: cueSchema.required() }),
  change(kit, { clip: id, cue }) {
    const clip = clipOf(kit, id);
    if (cue.part !== null) partOf(kit, cue.part);
    if (cue.time > clip.lengthSeconds + 1e-6) throw new LateError('cue', cue.time, clip.lengthSeconds);
    clip.cues = [...(clip.cues ?? []).filter((one) => one.id !== cue.id), cue].sort((a, b) => a.time - b.time || (a.id < b.id ? -1 : 1));
  },
});

/** Takes cues out of a clip. */
export const removeCues = defineOperation<{ clip: Id; cues: Id[] }>({
  id: 'motion.remove-cues',
  title: (_, { cues }) => `Take out ${cues.length === 1 ? 'a cue' : `${cues.length} cues`}`,
  args: Joi.object({ clip: idSchema.required(), cues: idsSchema.required() }),
  change(kit, { clip: id, cues }) {
    const clip = clipOf(kit, id);
    const kept = (clip.cues ?? []).filter((cue) => !cues.includes(cue.id));
    if (kept.length > 0) clip.cues = kept;
    else delete clip.cues;
  },
});

/** Sets a flag, or changes the one of that id. */
export const setFlag = defineOperation<{ clip: Id; flag: Flag }>({
  id: 'motion.set-flag',
  title: (_, { flag }) => `Flag “${flag.name}” at ${flag.time.toFixed(2)} s`,
  args: Joi.object({ clip: idSchema.required(), flag: flagSchema.required() }),
  change(kit, { clip: id, flag }) {
    const clip = clipOf(kit, id);
    if (flag.time > clip.lengthSeconds + 1e-6) throw new LateError('flag', flag.time, clip.lengthSeconds);
    clip.flags = [...(clip.flags ?? []).filter((one) => one.id !== flag.id), flag].sort(
      (a, b) => a.time - b.time || (a.id < b.id ? -1 : 1),
    );
  },
});

/** Takes flags out of a clip. */
export const removeFlags = defineOperation<{ clip: Id; flags: Id[] }>({
  id: 'motion.remove-flags',
  title: (_, { flags }) => `Take out ${flags.length === 1 ? 'a flag' : `${flags.length} flags`}`,
  args: Joi.object({ clip: idSchema.required(), flags: idsSchema.required() }),
  change(kit, { clip: id, flags }) {
    const clip = clipOf(kit, id);
    const kept = (clip.flags ?? []).filter((flag) => !flags.includes(flag.id));
    if (kept.length > 0) clip.flags = kept;
    else delete clip.flags;
  },
});

/** Names numbers that the formulas of a clip may use. */
export const setConstants = defineOperation<{ clip: Id; constants: Record<string, number> }>({
  id: 'motion.set-constants',
  title: (kit, { clip }) => `Name numbers for the formulas of “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), constants: constantsSchema.required() }),
  change(kit, { clip: id, constants }) {
    const clip = clipOf(kit, id);
    const taken = Object.keys(constants).find((name) => ['t', 'u', 'pi', 'tau', 'e'].includes(name));
    if (taken !== undefined)
      throw new KitError('constant', `“${taken}” means something in every formula already. Choose another name.`, taken);
    if (Object.keys(constants).length > 0) clip.constants = constants;
    else delete clip.constants;
  },
});
