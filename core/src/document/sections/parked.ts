import Joi from 'joi';
import { idSchema, nameSchema } from '../schemas';
import type { Id } from '../values';
import { count } from '../wording';
import { bindingSchema, conformRows, type Binding } from './bindings';
import { checkTrack, conformTrack, trackBlobs, trackSchema, type Track } from './clips';
import { compareRecords } from './compare';
import { nothing, STAYS, type Section } from './section';
import { switchSchema, type Switch } from './switches';

/** Motion or wiring whose part went with a new version of the source: kept, and can be given to another part. */
export type Parked = { id: Id; partName: string } & (
  { kind: 'track'; clip: Id; track: Track } | { kind: 'binding'; binding: Binding } | { kind: 'switch'; switch: Switch }
);

declare module '../kit' {
  interface Kit {
    /** Absent where nothing is parked. */
    parked?: Parked[];
  }
}

const base = { id: idSchema.required(), partName: nameSchema.required() };
const parked = Joi.alternatives().conditional('.kind', {
  switch: [
    {
      is: 'track',
      then: Joi.object({ ...base, kind: Joi.valid('track').required(), clip: idSchema.required(), track: trackSchema.required() }),
    },
    { is: 'switch', then: Joi.object({ ...base, kind: Joi.valid('switch').required(), switch: switchSchema.required() }) },
    { is: 'binding', then: Joi.object({ ...base, kind: Joi.valid('binding').required(), binding: bindingSchema.required() }) },
  ],
});

/** What a new version of the source could not take over, kept until it is put somewhere or dropped. */
export const parkedSection: Section<'parked'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(parked),
  fields: [],
  sound: (list, refuse) => list.forEach((one) => one.kind === 'track' && checkTrack(one.track, `parked.${one.id}`, refuse)),
  // What they were on is gone: they point at nothing.
  references: nothing,
  blobs: (list, add) => list.forEach((one) => one.kind === 'track' && trackBlobs(one.track, add)),
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform(kit, to) {
    for (const one of kit.parked ?? []) {
      if (one.kind === 'track') one.track = conformTrack(one.track, to);
      else if (one.kind === 'binding') one.binding.rows = conformRows(one.binding.rows, to);
    }
  },
  compare: (before, after) =>
    compareRecords(before.parked ?? [], after.parked ?? [], ({ kind, partName }) => `Parked ${kind} of “${partName}”`),
  pack: {
    model: false,
    manifest: null,
    leftOut: ({ parked: list }) => (list?.length ? [{ what: count(list.length, 'parked thing'), why: 'no part has them' }] : []),
  },
  newVersion: STAYS,
};
