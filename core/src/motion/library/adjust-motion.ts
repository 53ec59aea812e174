import Joi from 'joi';
import { defineOperation, idSchema, type Id } from '../../document';
import { clipOf } from '../clip-operations';
import { choicesSchema, type FitChoices } from './fit-choices';
import { twinsOf } from './motion-role';
import { MovingBody } from './moving-body';
import { plantedFeet, type Planted } from './planted-feet';

interface AdjustArgs {
  clip: Id;
  choices: FitChoices;
  /** Whether planted feet are kept on their places. */
  pinned: boolean;
  /**
   * When feet stand, where that is known better than by this clip: of the body or the motion it comes from. In this kit's parts and metres.
   */
  planted: Planted[] | null;
}

/**
 * Fits any clip to the body it is on: arms further out, longer or shorter steps, hips lower or higher with the feet where they are, left
 * for right, without its travel, and feet kept on their places while they stand. Legs are solved as two bones. What changes becomes plain
 * keys, everything else stays as it is.
 *
 * @throws {MotionFitError} where joints that are needed are not known
 */
export const adjustMotion = defineOperation<AdjustArgs>({
  id: 'motion.adjust',
  title: (kit, { clip }) => `Fit “${kit.clips[clip]?.name}” to the body`,
  args: Joi.object({
    clip: idSchema.required(),
    choices: choicesSchema.required(),
    pinned: Joi.boolean().required(),
    planted: Joi.array()
      .items(
        Joi.object({
          foot: idSchema.required(),
          from: Joi.number().required(),
          to: Joi.number().required(),
          lift: Joi.number().required(),
        }),
      )
      .max(100_000)
      .allow(null)
      .required(),
  }),
  change(kit, { clip: id, choices, pinned, planted }, blobs) {
    const clip = clipOf(kit, id);
    const body = new MovingBody(kit, clip, blobs);
    const steps = choices.stride !== 1 || choices.hipHeight !== 0 || pinned;
    const twins = choices.mirrored ? twinsOf(kit) : null;
    const twin = (part: Id) => twins?.get(part) ?? part;
    const stands = steps ? (planted ?? plantedFeet(kit, clip, blobs, body.legs)).map((one) => ({ ...one, foot: twin(one.foot) })) : [];
    if (twins) {
      body.mirror(twins);
      clip.tracks = clip.tracks.map((track) => ({ ...track, part: twin(track.part) }));
    }
    if (choices.armSpread !== 0) body.spreadArms(choices.armSpread);
    if (steps) body.step(choices, pinned ? stands : [], stands);
    if (choices.inPlace) body.stay();
    body.write(clip, blobs);
  },
});
