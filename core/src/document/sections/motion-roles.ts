import Joi from 'joi';
import type { Id } from '../values';
import { said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

declare module '../kit' {
  interface Kit {
    /**
     * Which joint is for what in a motion (`thigh_l`, `hips`) where its name does not say so, or says it wrongly; null for none. Those
     * that are gone say nothing.
     */
    motionRoles?: Record<string, Id | null>;
  }
}

/** Which joint is the hip, which the left knee, where a person said so. */
export const motionRolesSection: Section<'motionRoles'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.object().pattern(Joi.string().max(64), Joi.string().allow(null)),
  fields: [],
  sound: nothing,
  references: nothing,
  blobs: nothing,
  without(kit, { gone }) {
    for (const [role, part] of Object.entries(kit.motionRoles ?? {})) if (part !== null && gone.has(part)) delete kit.motionRoles![role];
  },
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    said(before.motionRoles ?? {}, after.motionRoles ?? {}, 'other joints').map((what) => ({ where: 'What joints are for', what })),
  // It is for making motion, and the motion goes in.
  pack: { model: false, manifest: null, leftOut: allGoesIn },
  newVersion: STAYS,
};
