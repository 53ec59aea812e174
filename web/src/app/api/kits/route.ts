import { database } from '../../../server/database';
import { listKits } from '../../../server/kit-store';
import { json, readBody, route } from '../../../server/route';
import { takeInFile } from '../../../server/take-in';
import { MAX_FILE_BYTES } from '@itchkit/core';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listKits(database())));

/** Takes in the file that is the body; `x-file-name` is its name, percent-encoded. */
export const POST = route(async (request) => {
  const fileName = decodeURIComponent(request.headers.get('x-file-name') ?? 'model').slice(0, 400);
  const bytes = await readBody(request, MAX_FILE_BYTES, `“${fileName}”`);
  return json({ id: await takeInFile(database(), bytes, fileName) }, 201);
});
