import Joi from 'joi';
import { KitError } from '@itchkit/core/document';
import { database } from '../../../../../server/database';
import { loadThumbnail, setSummary } from '../../../../../server/kit-store';
import { cleanPicture } from '../../../../../server/clean-picture';
import { json, MOST_INTEGER, query, readBody, route } from '../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit }) => {
  const png = await loadThumbnail(database(), kit);
  if (!png) throw new KitError('not-found', 'There is no picture of this kit yet.', kit);
  return new Response(png as Uint8Array<ArrayBuffer>, {
    headers: { 'content-type': 'image/png', 'x-content-type-options': 'nosniff', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});

const schema = Joi.object({ revision: Joi.number().integer().min(1).max(MOST_INTEGER).required() });

/** Takes the picture of a revision for the shelf: what is stored is drawn anew from its pixels. */
export const PUT = route(async (request, { kit }) => {
  const { revision } = query<{ revision: number }>(request, schema);
  const thumbnail = await cleanPicture(await readBody(request, 1024 * 1024, 'The picture'));
  await setSummary(database(), kit, revision, { thumbnail });
  return json({ revision });
});
