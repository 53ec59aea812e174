import Joi from 'joi';
import { changesSchema } from '../../../../../../../server/changes-schema';
import { database } from '../../../../../../../server/database';
import { noteRevision } from '../../../../../../../server/revision-store';
import { json, jsonBody, route } from '../../../../../../../server/route';
import type { FieldChange } from '@itchkit/core/document';

const schema = Joi.object({ title: Joi.string().min(1).max(400).required(), changes: changesSchema });

/** Keeps changes that did not fit a revision as a note beside it. */
export const POST = route(async (request, { kit, number }) => {
  const note = await jsonBody<{ title: string; changes: FieldChange[] }>(request, schema);
  await noteRevision(database(), kit, Number(number), { ...note, at: new Date().toISOString() });
  return json({ noted: Number(number) }, 201);
});
