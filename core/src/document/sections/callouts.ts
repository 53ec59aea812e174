import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, vec3Schema, type SchemaOf } from '../schemas';
import type { Id, Vec3 } from '../values';
import { count } from '../wording';
import { compareRecords } from './compare';
import { nothing, STAYS, type Section } from './section';

/** How many points each kind of measure has. */
export const CALLOUT_POINTS = { distance: 2, angle: 3, radius: 3 } as const;

/** A measure that is kept with the kit, between points in the axes of parts, metres. */
export interface Callout {
  id: Id;
  kind: keyof typeof CALLOUT_POINTS;
  points: { part: Id; at: Vec3 }[];
}

declare module '../kit' {
  interface Kit {
    /** Absent where nothing measured is kept. */
    callouts?: Callout[];
  }
}

/** A measure on the bench: its points, each in the axes of the part it stands on, metres. */
export const calloutSchema = Joi.object({
  id: idSchema.required(),
  kind: Joi.valid(...Object.keys(CALLOUT_POINTS)).required(),
  points: Joi.array()
    .items(Joi.object({ part: idSchema.required(), at: vec3Schema.required() }))
    .when('kind', { is: 'distance', then: Joi.array().length(2), otherwise: Joi.array().length(3) })
    .required(),
} satisfies SchemaOf<Callout>);

const pointsOf = (kit: Kit) => (kit.callouts ?? []).flatMap(({ points }) => points);

/** Measures that stay on the bench. */
export const calloutsSection: Section<'callouts'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(calloutSchema),
  fields: [],
  sound: nothing,
  references(list, { kit, need }) {
    for (const { id, points } of list) for (const { part } of points) need(kit.parts, part, `callouts.${id}`);
  },
  blobs: nothing,
  without(kit, { gone }) {
    if (!pointsOf(kit).some(({ part }) => gone.has(part))) return;
    const kept = kit.callouts!.filter(({ points }) => !points.some(({ part }) => gone.has(part)));
    if (kept.length > 0) kit.callouts = kept;
    else delete kit.callouts;
  },
  joined(kit, from, into, move) {
    for (const point of pointsOf(kit)) if (point.part === from) Object.assign(point, { part: into, at: move(point.at) });
  },
  moved(kit, part, move) {
    for (const point of pointsOf(kit)) if (point.part === part) point.at = move(point.at);
  },
  conform(kit, to) {
    for (const point of pointsOf(kit)) point.at = to.place(point.at);
  },
  compare: (before, after) => compareRecords(before.callouts ?? [], after.callouts ?? [], ({ kind }) => `Measure of a ${kind}`),
  pack: {
    model: false,
    manifest: null,
    leftOut: ({ callouts }) => (callouts?.length ? [{ what: count(callouts.length, 'measure'), why: 'kept with the kit' }] : []),
  },
  newVersion: STAYS,
};
