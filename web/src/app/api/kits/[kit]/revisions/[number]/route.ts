import Joi from 'joi';
import { database } from '../../../../../../server/database';
import { loadRevision, nameRevision } from '../../../../../../server/revision-store';
import { json, jsonBody, route } from '../../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit, number }) => json(await loadRevision(database(), kit, Number(number))));

const schema = Joi.object({ name: Joi.string().trim().min(1).max(120).allow(null).required() });

/** Names a revision, so that it stays. */
export const PUT = route(async (request, { kit, number }) => {
  const { name } = await jsonBody<{ name: string | null }>(request, schema);
  await nameRevision(database(), kit, Number(number), name);
  return json({ name });
});
