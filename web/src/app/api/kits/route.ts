import { database } from '../../../server/database';
import { listKits } from '../../../server/kit-store';
import { fileNameOf, json, readBody, route } from '../../../server/route';
import { takeInFile } from '../../../server/take-in';
import { MAX_FILE_BYTES } from '@itchkit/core';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listKits(database())));

/** Takes in the file that is the body. */
export const POST = route(async (request) => {
  const fileName = fileNameOf(request);
  const bytes = await readBody(request, MAX_FILE_BYTES, `“${fileName}”`);
  return json({ id: await takeInFile(database(), bytes, fileName) }, 201);
});
