import { database } from '../../../server/database';
import { listKits } from '../../../server/kit-store';
import { json, newIdOf, readUpload, route } from '../../../server/route';
import { takeInFile } from '../../../server/take-in';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listKits(database())));

/** Takes in the file that is the body. */
export const POST = route(async (request) => {
  const id = newIdOf(request);
  return json({ id: await takeInFile(database(), await readUpload(request), id) }, 201);
});
