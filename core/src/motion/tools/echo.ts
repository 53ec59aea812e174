import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, nameList, newId, partOf, type Id, type KeyTrack } from '../../document';
import { clipOf } from '../clip-operations';
import { restValue } from '../formula-track';
import { number, ToolError, trackFor } from './chosen';
import { scaledAbout } from './scale-values';
import { shifted } from './shift-keys';

/**
 * Hands the motion of a part down a chain: the d-th part of it moves as the first one does, d delays later and gainᵈ times as far. In a
 * loop what is late at the end comes in at the beginning. The keys are plain ones.
 */
export const echo = defineOperation<{ clip: Id; from: Id; chain: Id[]; delaySeconds: number; gain: number }>({
  id: 'motion.echo',
  title: (kit, { from, chain }) => `Echo “${kit.parts[from]?.name}” down ${nameList(chain.map((id) => kit.parts[id]?.name ?? ''))}`,
  args: Joi.object({
    clip: idSchema.required(),
    from: idSchema.required(),
    chain: idsSchema.required(),
    delaySeconds: number(3600).required(),
    gain: number(100).required(),
  }),
  change(kit, { clip: id, from, chain, delaySeconds, gain }) {
    const clip = clipOf(kit, id);
    const own = clip.tracks.filter(
      (track): track is KeyTrack => track.kind === 'keys' && track.part === from && track.keys.length > 0 && track.property !== 'weight',
    );
    if (own.length === 0)
      throw new ToolError(`“${partOf(kit, from).name}” has no keys in “${clip.name}” to hand down. Key it first.`, from);
    chain.forEach((part, i) => {
      partOf(kit, part);
      const depth = i + 1;
      for (const track of own) {
        const keys = track.keys.map((key) =>
          track.property === 'shown' ? { ...key } : scaledAbout(key, gain ** depth, restValue(track.property)),
        );
        trackFor(clip, part, track.property, track.axis, newId).keys = shifted(
          keys,
          depth * delaySeconds,
          clip.lengthSeconds,
          clip.loop === 'loop',
        );
      }
    });
  },
});
