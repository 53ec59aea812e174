import { KitError } from '@itchkit/core/document';
import { database } from '../../../../../server/database';
import { emptyOut } from '../../../../../server/history-store';
import { json, route } from '../../../../../server/route';

/** Throws away a kit that is off the shelf. */
export const DELETE = route(async (_, { kit }) => {
  if (!(await emptyOut(database(), kit))) throw new KitError('not-found', 'That kit is not in the bin any more.', kit);
  return json({ deleted: kit });
});
