import { database } from '../../../../../server/database';
import { duplicateKit } from '../../../../../server/kit-store';
import { json, route } from '../../../../../server/route';

export const POST = route(async (_, { kit }) => json({ id: await duplicateKit(database(), kit) }, 201));
