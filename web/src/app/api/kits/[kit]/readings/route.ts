import { database } from '../../../../../server/database';
import { loadKit } from '../../../../../server/kit-store';
import { json, readUpload, route } from '../../../../../server/route';
import { readBeside } from '../../../../../server/take-in';

/** Reads the file that is the body beside a kit, and changes nothing of it. */
export const POST = route(async (request, { kit }) => {
  await loadKit(database(), kit);
  return json({ kit: await readBeside(database(), await readUpload(request)) }, 201);
});
