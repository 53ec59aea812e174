import { database } from '../../../../../server/database';
import { json, route } from '../../../../../server/route';
import { readSource } from '../../../../../server/take-in';

/** Reads a kit's source again, as it came. */
export const POST = route(async (_, { kit }) => json({ kit: await readSource(database(), kit) }));
