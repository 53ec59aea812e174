import { database } from '../../../../../../server/database';
import { loadRevision } from '../../../../../../server/revision-store';
import { json, route } from '../../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit, number }) => json(await loadRevision(database(), kit, Number(number))));
