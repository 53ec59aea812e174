import Joi from 'joi';
import { exportKit } from '../../../../../server/archive-store';
import { database } from '../../../../../server/database';
import { query, route } from '../../../../../server/route';

export const dynamic = 'force-dynamic';

const schema = Joi.object({ history: Joi.valid('yes', 'no').default('no') });

/** The kit as a file that any shelf takes in. */
export const GET = route(async (request, { kit }) => {
  const { history } = query<{ history: 'yes' | 'no' }>(request, schema);
  const { fileName, bytes } = await exportKit(database(), kit, { withHistory: history === 'yes' });
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${fileName}"`,
      'cache-control': 'no-store',
    },
  });
});
