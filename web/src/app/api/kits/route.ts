import { database } from '../../../server/database';
import { listKits } from '../../../server/kit-store';
import { json, readUpload, route } from '../../../server/route';
import { takeInFile } from '../../../server/take-in';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json(await listKits(database())));

/** Takes in the file that is the body. */
export const POST = route(async (request) => json({ id: await takeInFile(database(), await readUpload(request)) }, 201));
