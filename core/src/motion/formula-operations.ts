import Joi from 'joi';
import { defineOperation, idSchema, KEY_PROPERTIES, MOST_FORMULA, newId, partOf, type FormulaTrack, type Id } from '../document';
import { clipOf } from './clip-operations';
import { FormulaError, readFormula } from '../formula';
import { frames } from './frames';

/**
 * Lets a formula move one axis of a part in a clip; what moved it there until now goes.
 * @throws {FormulaError} with the character where it fails
 */
export const setFormula = defineOperation<{ clip: Id; part: Id; property: FormulaTrack['property']; axis: number; source: string }>({
  id: 'motion.set-formula',
  title: (kit, { part, property, axis }) => `Move the ${property} ${'xyz'[axis] ?? axis} of “${kit.parts[part]?.name}” by a formula`,
  args: Joi.object({
    clip: idSchema.required(),
    part: idSchema.required(),
    property: Joi.valid(...KEY_PROPERTIES.filter((one) => one !== 'shown')).required(),
    axis: Joi.number().integer().min(0).required(),
    source: Joi.string()
      .allow('')
      .max(4 * MOST_FORMULA)
      .required(),
  }),
  change(kit, { clip: id, part, property, axis, source }) {
    const clip = clipOf(kit, id);
    partOf(kit, part);
    const formula = readFormula(source, clip.constants);
    const bad = frames(0, clip.lengthSeconds, 1 / clip.rate).find((time) => !Number.isFinite(formula(time, time / clip.lengthSeconds)));
    if (bad !== undefined)
      throw new FormulaError(
        `At ${bad.toFixed(3)} s it gives no number, since it divides by nothing or takes a root or logarithm of what has none`,
        0,
      );
    const same = clip.tracks.find(
      (track) => track.kind !== 'samples' && track.part === part && track.property === property && track.axis === axis,
    );
    const made: FormulaTrack = { kind: 'formula', id: same?.id ?? newId(), part, property, axis, source, gain: 1 };
    clip.tracks = same ? clip.tracks.map((track) => (track.id === same.id ? made : track)) : [...clip.tracks, made];
  },
});
