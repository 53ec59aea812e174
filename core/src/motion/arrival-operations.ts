import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, KitError, LOOP_MODES, newId, type Id } from '../document';
import { marksOfPiece, marksThatGo } from './clip-marks';
import { clipOf } from './clip-operations';
import { cutTracks } from './cut-clip';
import type { ClipRange } from './range-table';

/** A stretch that does not lie within its clip. */
export class ClipRangeError extends KitError {
  constructor(name: string, length: number) {
    super(
      'clip-range',
      `“${name}” would reach out of the clip, which is ${Number(length.toFixed(3))} s long. Choose times within it.`,
      name,
    );
  }
}

/** Keeps some clips, and lets the others go. */
export const keepClips = defineOperation<{ clips: Id[] }>({
  id: 'motion.keep-clips',
  title: (kit, { clips }) =>
    clips.length === 1 ? `Keep only clip “${kit.clips[clips[0]]?.name}”` : `Keep ${clips.length} of ${Object.keys(kit.clips).length} clips`,
  args: Joi.object({ clips: idsSchema.required() }),
  change(kit, { clips }) {
    for (const id of clips) clipOf(kit, id);
    for (const id of Object.keys(kit.clips)) if (!clips.includes(id)) delete kit.clips[id];
  },
});

/** Makes clips out of pieces of one. The one itself goes, unless it is to stay. */
export const splitClip = defineOperation<{ clip: Id; ranges: ClipRange[]; keep: boolean }>({
  id: 'motion.split-clip',
  title: (kit, { clip, ranges }) => `Split clip “${kit.clips[clip]?.name}” into ${ranges.length}`,
  args: Joi.object({
    clip: idSchema.required(),
    ranges: Joi.array()
      .items(
        Joi.object({
          name: Joi.string().min(1).max(200).required(),
          from: Joi.number().min(0).required(),
          to: Joi.number().min(0).required(),
          loop: Joi.valid(...LOOP_MODES).required(),
        }),
      )
      .min(1)
      .max(1000)
      .required(),
    keep: Joi.boolean().required(),
  }),
  change(kit, { clip: id, ranges, keep }, blobs) {
    const source = clipOf(kit, id);
    const slack = 0.5 / source.rate + 1e-6;
    const later = Object.values(kit.clips).filter((clip) => clip.order > source.order);
    for (const clip of later) clip.order += ranges.length;
    ranges.forEach((range, i) => {
      if (range.to > source.lengthSeconds + slack || range.from > range.to) throw new ClipRangeError(range.name, source.lengthSeconds);
      const made = newId();
      // A single frame is a pose that stands for one frame.
      const lengthSeconds = Math.max(range.to - range.from, 1 / source.rate);
      kit.clips[made] = {
        id: made,
        name: range.name,
        order: source.order + 1 + i,
        lengthSeconds,
        rate: source.rate,
        loop: range.loop,
        tracks: cutTracks(source, range.from, range.to, blobs),
        ...(source.constants ? { constants: source.constants } : {}),
        ...marksOfPiece(source, range, true),
      };
    });
    if (keep) return;
    delete kit.clips[id];
    return { told: marksThatGo(source, ranges) };
  },
});

/** Cuts a clip to the piece between two times, seconds. */
export const trimClip = defineOperation<{ clip: Id; from: number; to: number }>({
  id: 'motion.trim-clip',
  title: (kit, { clip }) => `Trim clip “${kit.clips[clip]?.name}”`,
  args: Joi.object({ clip: idSchema.required(), from: Joi.number().min(0).required(), to: Joi.number().min(0).required() }),
  change(kit, { clip: id, from, to }, blobs) {
    const clip = clipOf(kit, id);
    if (to > clip.lengthSeconds + 1e-6 || to - from < 1 / clip.rate - 1e-6) throw new ClipRangeError(clip.name, clip.lengthSeconds);
    clip.tracks = cutTracks(clip, from, to, blobs);
    const told = marksThatGo(clip, [{ from, to }]);
    Object.assign(clip, marksOfPiece(clip, { from, to }));
    clip.lengthSeconds = to - from;
    return { told };
  },
});
