import { MAX_FILE_BYTES } from '@itchkit/core';
import { database } from '../../../../../server/database';
import { loadKit } from '../../../../../server/kit-store';
import { fileNameOf, json, readBody, route } from '../../../../../server/route';
import { readBeside } from '../../../../../server/take-in';

/** Reads the file that is the body beside a kit, and changes nothing of it. */
export const POST = route(async (request, { kit }) => {
  await loadKit(database(), kit);
  const fileName = fileNameOf(request);
  const bytes = await readBody(request, MAX_FILE_BYTES, `“${fileName}”`);
  return json({ kit: await readBeside(database(), bytes, fileName) }, 201);
});
