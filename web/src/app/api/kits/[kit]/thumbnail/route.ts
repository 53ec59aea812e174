import { KitError } from '@itchkit/core/document';
import { database } from '../../../../../server/database';
import { loadThumbnail, setSummary } from '../../../../../server/kit-store';
import { json, readBody, route } from '../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit }) => {
  const png = await loadThumbnail(database(), kit);
  if (!png) throw new KitError('not-found', 'There is no picture of this kit yet.', kit);
  return new Response(png as Uint8Array<ArrayBuffer>, {
    headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});

export const PUT = route(async (request, { kit }) => {
  const revision = Number(new URL(request.url).searchParams.get('revision'));
  const png = await readBody(request, 1024 * 1024, 'The picture');
  const isPng = png.length > 8 && png[0] === 0x89 && png[1] === 0x50;
  if (!isPng || !Number.isInteger(revision)) throw new KitError('request', 'A picture of a kit has to be a PNG of a revision.');
  await setSummary(database(), kit, revision, { thumbnail: png });
  return json({ revision });
});
