import Joi from 'joi';
import { database } from '../../../server/database';
import { json, jsonBody, route } from '../../../server/route';
import { listRulebooks, saveRulebook } from '../../../server/rulebook-store';

export const dynamic = 'force-dynamic';

/** People's own rulebooks, all versions. */
export const GET = route(async () => json(await listRulebooks(database())));

/** Keeps a version of a rulebook. */
export const POST = route(async (request) =>
  json(await saveRulebook(database(), await jsonBody(request, Joi.object().unknown().required())), 201),
);
