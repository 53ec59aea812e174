import { database } from '../../../../../server/database';
import { listRevisions } from '../../../../../server/revision-store';
import { json, route } from '../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit }) => json(await listRevisions(database(), kit)));
