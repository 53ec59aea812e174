import Joi from 'joi';
import { changesSchema } from '../../../../server/changes-schema';
import { database } from '../../../../server/database';
import { loadKit, saveKit, setDeleted, type Save } from '../../../../server/kit-store';
import { json, jsonBody, MOST_INTEGER, route } from '../../../../server/route';

export const dynamic = 'force-dynamic';

const saveSchema = Joi.object({
  base: Joi.number().integer().min(1).max(MOST_INTEGER).required(),
  key: Joi.string()
    .pattern(/^[\w-]{8,64}$/)
    .required(),
  cause: Joi.string().max(400).required(),
  changes: changesSchema,
});

export const GET = route(async (_, { kit }) => json(await loadKit(database(), kit)));

export const PATCH = route(async (request, { kit }) =>
  json({ revision: await saveKit(database(), kit, await jsonBody<Save>(request, saveSchema)) }),
);

export const DELETE = route(async (_, { kit }) => {
  await setDeleted(database(), kit, true);
  return json({ deleted: kit });
});
