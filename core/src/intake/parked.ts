import Joi from 'joi';
import { defineOperation, idSchema, idsSchema, KitError, partOf, type Id, type Kit, type Parked } from '../document';

/** What was parked is not there any more. */
export class ParkedError extends KitError {
  constructor() {
    super('parked', 'That is not parked any more. Look at the list again.');
  }
}

function take(kit: Kit, ids: Id[]): Parked[] {
  const taken = (kit.parked ?? []).filter((one) => ids.includes(one.id));
  if (taken.length !== ids.length) throw new ParkedError();
  const left = kit.parked!.filter((one) => !ids.includes(one.id));
  if (left.length > 0) kit.parked = left;
  else delete kit.parked;
  return taken;
}

/** Gives parked tracks, bindings and switches to a part. A track takes the place of one of the same kind that the part has in that clip. */
export const giveParked = defineOperation<{ parked: Id[]; part: Id }>({
  id: 'intake.give-parked',
  title: (kit, { parked, part }) =>
    `Give ${parked.length === 1 ? 'what was parked' : `${parked.length} parked things`} to “${kit.parts[part]?.name}”`,
  args: Joi.object({ parked: idsSchema.required(), part: idSchema.required() }),
  change(kit, { parked, part }) {
    partOf(kit, part);
    for (const one of take(kit, parked)) {
      if (one.kind === 'binding') kit.bindings[one.binding.id] = { ...one.binding, part };
      else if (one.kind === 'switch') kit.switches = [...(kit.switches ?? []), { ...one.switch, part }];
      else {
        const clip = kit.clips[one.clip];
        if (!clip)
          throw new KitError(
            'clip-missing',
            `The clip of what was parked from “${one.partName}” is no longer in the kit. Let it go, or undo the deletion of the clip.`,
            one.clip,
          );
        const { track } = one;
        const isSame = (other: (typeof clip.tracks)[number]) =>
          other.part === part &&
          other.property === track.property &&
          (!('axis' in other) || !('axis' in track) || other.axis === track.axis);
        clip.tracks = [...clip.tracks.filter((other) => !isSame(other)), { ...track, part }];
      }
    }
  },
});

/** Lets parked tracks, bindings and switches go. */
export const dropParked = defineOperation<{ parked: Id[] }>({
  id: 'intake.drop-parked',
  title: (_, { parked }) => `Let go of ${parked.length === 1 ? 'what was parked' : `${parked.length} parked things`}`,
  args: Joi.object({ parked: idsSchema.required() }),
  change(kit, { parked }) {
    take(kit, parked);
  },
});
