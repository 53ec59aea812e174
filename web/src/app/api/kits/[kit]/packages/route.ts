import { database } from '../../../../../server/database';
import { buildPackage, listPackages } from '../../../../../server/package-store';
import { json, route } from '../../../../../server/route';

export const dynamic = 'force-dynamic';

export const GET = route(async (_, { kit }) => json(await listPackages(database(), kit)));

export const POST = route(async (_, { kit }) => json(await buildPackage(database(), kit), 201));
