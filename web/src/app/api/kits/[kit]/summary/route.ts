import Joi from 'joi';
import { STAGES, type GradeCounts, type OwedByStage } from '@itchkit/core/rulebook';
import { database } from '../../../../../server/database';
import { setSummary } from '../../../../../server/kit-store';
import { json, jsonBody, MOST_INTEGER, route } from '../../../../../server/route';

const number = Joi.number().integer().min(0).max(MOST_INTEGER).required();
const counts = Joi.object({ stop: number, warn: number, note: number });
const owed = Joi.object().pattern(Joi.string().max(64), Joi.object().pattern(Joi.valid(...STAGES), counts));
const schema = Joi.object({ revision: number, counts: counts.required(), owed: owed.required() });

/** What the checks in an open page say of a revision, for the shelf. */
export const PUT = route(async (request, { kit }) => {
  const { revision, ...summary } = await jsonBody<{ revision: number; counts: GradeCounts; owed: Record<string, OwedByStage> }>(
    request,
    schema,
  );
  await setSummary(database(), kit, revision, summary);
  return json({ revision });
});
