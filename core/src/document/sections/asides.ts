import Joi from 'joi';
import { rulebookIdSchema, type SchemaOf } from '../schemas';
import { alike, allGoesIn, nothing, STAYS, type Section } from './section';

/** A finding that a person has set aside for a target, and why. */
export interface Aside {
  rulebook: string;
  finding: string;
  reason: string;
}

declare module '../kit' {
  interface Kit {
    /** Absent where nothing was ever set aside. */
    asides?: Aside[];
  }
}

const aside = Joi.object({
  rulebook: rulebookIdSchema.required(),
  finding: Joi.string().max(400).required(),
  reason: Joi.string().min(1).max(1000).required(),
} satisfies SchemaOf<Aside>);

/** Findings that a person set aside, each with its reason. */
export const asidesSection: Section<'asides'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(aside),
  fields: [],
  sound: nothing,
  references: nothing,
  blobs: nothing,
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  // They are told with the findings.
  compare: alike,
  // The report in the manifest says them.
  pack: { model: false, manifest: null, leftOut: allGoesIn },
  newVersion: STAYS,
};
