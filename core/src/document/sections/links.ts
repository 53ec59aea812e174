import Joi from 'joi';
import { countSchema, idSchema, vec3Schema, type SchemaOf } from '../schemas';
import type { Axis, Id, Vec3 } from '../values';
import { compareRecords, said } from './compare';
import { nothing, STAYS, type Section } from './section';

/** Two parts whose free ends meet, two that point at one another, one that rolls by the way it has gone. */
export const LINK_KINDS = ['meet', 'aim', 'roll'] as const;
export type LinkKind = (typeof LINK_KINDS)[number];

/** Parts whose turns are worked out of where what carries them stands, at each value of a variable. Each turns about its own pivot. */
export interface Link {
  id: Id;
  kind: LinkKind;
  /** Two parts; one where it rolls. */
  parts: Id[];
  /** Of each the own axis about which it turns. */
  axes: Axis[];
  /** Where free ends meet, or a wheel touches what it rolls on, at rest, in the axes of the first part, metres; null for an aim. */
  at: Vec3 | null;
  /** The part on which it rolls; null on the ground, and where nothing rolls. */
  on: Id | null;
  variable: string;
  /** From 0; null where the variable has no index. */
  index: number | null;
  /** Values between which it is worked out, and the one at which everything is at rest. In the variable's unit. */
  min: number;
  max: number;
  neutral: number;
}

declare module '../kit' {
  interface Kit {
    /** Absent where nothing is linked. */
    links?: Link[];
  }
}

/** A link: its parts with the axes they turn about, where they meet or touch, and the variable that moves them. */
export const linkSchema = Joi.object({
  id: idSchema.required(),
  kind: Joi.valid(...LINK_KINDS).required(),
  parts: Joi.array().items(idSchema).min(1).max(2).unique().required(),
  axes: Joi.array()
    .items(Joi.valid(0, 1, 2))
    .min(1)
    .max(2)
    .required(),
  at: vec3Schema.allow(null).required(),
  on: idSchema.allow(null).required(),
  variable: Joi.string().min(1).max(120).required(),
  index: countSchema.allow(null).required(),
  min: Joi.number().required(),
  max: Joi.number().greater(Joi.ref('min')).required(),
  neutral: Joi.number().required(),
} satisfies SchemaOf<Link>);

const TITLES = { meet: 'Links that meet', aim: 'Links that aim at one another', roll: 'Roll' } as const satisfies Record<LinkKind, string>;

/** How parts are linked. Only what is worked out goes into packages, as tables. */
export const linksSection: Section<'links'> = {
  kind: 'optional',
  merges: 'records',
  schema: Joi.array().items(linkSchema),
  fields: [],
  sound(list, refuse) {
    for (const { id, kind, parts, axes, at, min, max, neutral } of list) {
      const wanted = kind === 'roll' ? 1 : 2;
      if (parts.length !== wanted || axes.length !== wanted) refuse(`has ${parts.length} parts where ${wanted} are linked`, `links.${id}`);
      if ((kind === 'aim') !== (at === null)) refuse('says where its parts meet or touch exactly where they do', `links.${id}.at`);
      if (neutral < min || neutral > max) refuse(`is at rest at ${neutral}, which is not from ${min} to ${max}`, `links.${id}.neutral`);
    }
  },
  references(list, { kit, need }) {
    for (const { id, parts, on } of list) for (const part of [...parts, on]) need(kit.parts, part, `links.${id}`);
  },
  blobs: nothing,
  without(kit, { gone }) {
    const kept = kit.links?.filter(({ parts }) => !parts.some((part) => gone.has(part)));
    if (!kept) return;
    // What it rolled on is gone: it rolls on the ground.
    for (const link of kept) if (link.on !== null && gone.has(link.on)) link.on = null;
    if (kept.length === 0) delete kit.links;
    else if (kept.length < kit.links!.length) kit.links = kept;
  },
  joined: nothing,
  moved(kit, part, move) {
    for (const link of kit.links ?? []) if (link.at && link.parts[0] === part) link.at = move(link.at);
  },
  conform(kit, to) {
    for (const link of kit.links ?? []) {
      link.axes = link.axes.map((axis) => to.axis(axis).to);
      if (link.at) link.at = to.place(link.at);
    }
  },
  compare: (before, after) =>
    compareRecords(
      before.links ?? [],
      after.links ?? [],
      ({ kind, variable }) => `${TITLES[kind]} by ${variable}`,
      (a, b) => [
        ...said([a.at, a.on], [b.at, b.on], 'meets or rolls elsewhere'),
        ...said([a.parts, a.axes], [b.parts, b.axes], 'links other parts'),
        ...said([a.min, a.max, a.neutral], [b.min, b.max, b.neutral], 'worked out over another range'),
      ],
    ),
  pack: {
    model: false,
    manifest: null,
    // The tables that were worked out go in: how that was done is the kit's own.
    leftOut: () => [],
  },
  newVersion: STAYS,
};
