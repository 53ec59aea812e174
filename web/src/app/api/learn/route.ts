import { database } from '../../../server/database';
import { learnKit } from '../../../server/learn-kit';
import { json, newIdOf, route } from '../../../server/route';

/** Makes the kit to learn by. */
export const POST = route(async (request) => json({ id: await learnKit(database(), newIdOf(request)) }, 201));
