import { database } from '../../../../../server/database';
import { duplicateKit } from '../../../../../server/kit-store';
import { json, newIdOf, route } from '../../../../../server/route';

export const POST = route(async (request, { kit }) => json({ id: await duplicateKit(database(), kit, newIdOf(request)) }, 201));
