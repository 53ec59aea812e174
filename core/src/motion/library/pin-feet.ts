import Joi from 'joi';
import { defineOperation, idSchema, partOf, type Id } from '../../document';
import { flattenParts, Poser } from '../../geometry';
import { clipOf } from '../clip-operations';
import { frames } from '../frames';
import { compileClip, sampleClip } from '../sampler';
import { worldTurns } from '../world-turns';
import { ToolError } from '../tools/chosen';
import { looksAt, stepTo, type Leg } from './legs';
import { middleOf, plantedSpans, shiftsOnto } from './planted-feet';
import { writeTurns } from './write-samples';

/**
 * Keeps each foot on its place while it stands, by solving its leg as two bones; between, it is let go smoothly. The three joints of a leg get
 * plain keys of turns.
 *
 * @param legs Upper, lower and foot of each.
 */
export const pinFeet = defineOperation<{ clip: Id; legs: Leg[] }>({
  id: 'motion.pin-feet',
  title: (kit, { clip, legs }) => `Pin ${legs.length === 1 ? 'a foot' : `${legs.length} feet`} in “${kit.clips[clip]?.name}” where they stand`,
  args: Joi.object({ clip: idSchema.required(), legs: Joi.array().items(Joi.array().items(idSchema).length(3)).min(1).max(50).required() }),
  change(kit, { clip: id, legs }, blobs) {
    const clip = clipOf(kit, id);
    for (const leg of legs) {
      leg.forEach((part) => partOf(kit, part));
      const [upper, lower, foot] = leg;
      if (kit.parts[lower].parent !== upper || kit.parts[foot].parent !== lower)
        throw new ToolError(`“${kit.parts[foot].name}” does not hang below “${kit.parts[lower].name}”, and that below “${kit.parts[upper].name}”, so it is no leg.`, foot);
      const times = frames(0, clip.lengthSeconds, 1 / Math.max(60, clip.rate));
      const poser = new Poser(flattenParts(kit));
      const turns = worldTurns(poser);
      const rest = new Map(poser.flat.ids.map((part, p) => [part, turns[p]]));
      const compiled = compileClip(clip, poser.flat, blobs);
      const looks = times.map((time) => {
        poser.reset();
        sampleClip(compiled, time, poser.pose);
        poser.update();
        return looksAt(kit, poser, leg, rest);
      });
      const places = looks.map(([, , { at }]) => at);
      const spans = plantedSpans(places, times);
      if (spans.length === 0) continue;
      const shifts = shiftsOnto(
        places,
        times,
        spans,
        spans.map((span) => middleOf(places, span)),
      );
      const spins = looks.map((look, i) => stepTo(kit, leg, look, shifts[i]));
      leg.forEach((part, k) =>
        writeTurns(
          kit,
          clip,
          part,
          times,
          spins.map((all) => all[k]),
          blobs,
        ),
      );
    }
  },
});
