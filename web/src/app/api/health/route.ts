import { databaseAnswers } from '../../../server/blob-store';
import { database } from '../../../server/database';
import { json, route } from '../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async () => json({ ok: await databaseAnswers(database()) }));
