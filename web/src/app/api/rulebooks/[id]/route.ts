import { database } from '../../../../server/database';
import { json, route } from '../../../../server/route';
import { deleteRulebook } from '../../../../server/rulebook-store';

/** Deletes a person's own rulebook with all its versions. */
export const DELETE = route(async (_, { id }) => json({ versions: await deleteRulebook(database(), id) }));
