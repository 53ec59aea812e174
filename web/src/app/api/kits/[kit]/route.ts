import Joi from 'joi';
import type { Patch } from '@itchkit/core/document';
import { database } from '../../../../server/database';
import { loadKit, saveKit, setDeleted } from '../../../../server/kit-store';
import { json, jsonBody, route } from '../../../../server/route';

export const dynamic = 'force-dynamic';

const saveSchema = Joi.object({
  base: Joi.number().integer().min(1).required(),
  cause: Joi.string().max(400).required(),
  patches: Joi.array()
    .items(
      Joi.object({
        op: Joi.valid('add', 'remove', 'replace').required(),
        path: Joi.array().items(Joi.string(), Joi.number()).max(20).required(),
        value: Joi.any(),
      }),
    )
    .required(),
});

export const GET = route(async (_, { kit }) => json(await loadKit(database(), kit)));

export const PATCH = route(async (request, { kit }) => {
  const { base, patches, cause } = await jsonBody<{ base: number; patches: Patch[]; cause: string }>(request, saveSchema);
  return json({ revision: await saveKit(database(), kit, base, patches, cause) });
});

export const DELETE = route(async (_, { kit }) => {
  await setDeleted(database(), kit, true);
  return json({ deleted: kit });
});
