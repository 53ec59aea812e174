import { database } from '../../../../../server/database';
import { setDeleted } from '../../../../../server/kit-store';
import { json, route } from '../../../../../server/route';

export const POST = route(async (_, { kit }) => {
  await setDeleted(database(), kit, false);
  return json({ restored: kit });
});
