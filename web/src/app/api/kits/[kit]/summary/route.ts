import Joi from 'joi';
import type { GradeCounts } from '@itchkit/core';
import { database } from '../../../../../server/database';
import { setSummary } from '../../../../../server/kit-store';
import { json, jsonBody, route } from '../../../../../server/route';

const number = Joi.number().integer().min(0).required();
const schema = Joi.object({ revision: number, counts: Joi.object({ stop: number, warn: number, note: number }).required() });

/** What the checks in an open page say of a revision, for the shelf. */
export const PUT = route(async (request, { kit }) => {
  const { revision, counts } = await jsonBody<{ revision: number; counts: GradeCounts }>(request, schema);
  await setSummary(database(), kit, revision, { counts });
  return json({ revision });
});
