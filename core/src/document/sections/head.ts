import Joi from 'joi';
import { nameOfKitSchema, rulebookIdSchema } from '../schemas';
import { allGoesIn, nothing, STAYS, type Section } from './section';
import { said } from './compare';

/** A rulebook that a kit is prepared for. */
export interface Target {
  rulebook: string;
  version: string;
}

declare module '../kit' {
  interface Kit {
    name: string;
    /** The first is the one in view. */
    targets: Target[];
  }
}

const plain = {
  kind: 'value',
  merges: 'fields',
  fields: [],
  sound: nothing,
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
} as const;

/** The kit's name. */
export const nameSection: Section<'name'> = {
  ...plain,
  schema: nameOfKitSchema,
  compare: (before, after) => said(before.name, after.name, `renamed from “${before.name}”`).map((what) => ({ where: 'The kit', what })),
  // The head of the manifest says it.
  pack: { model: false, manifest: null, leftOut: allGoesIn },
  newVersion: STAYS,
};

/** The platforms that the kit is for, each with the version of its rulebook; the first is in view. */
export const targetsSection: Section<'targets'> = {
  ...plain,
  schema: Joi.array().items(Joi.object({ rulebook: rulebookIdSchema.required(), version: Joi.string().max(20).required() })),
  compare: (before, after) =>
    said(before.targets, after.targets, `prepared for ${after.targets.map(({ rulebook }) => rulebook).join(', ') || 'nothing'}`).map(
      (what) => ({
        where: 'The kit',
        what,
      }),
    ),
  pack: { model: false, manifest: null, leftOut: allGoesIn },
  newVersion: STAYS,
};
