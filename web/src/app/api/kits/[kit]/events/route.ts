import Joi from 'joi';
import { database } from '../../../../../server/database';
import { kitEvents } from '../../../../../server/kit-events';
import { query, route } from '../../../../../server/route';
import type { OpenWindow } from '../../../../../server/windows-store';

export const dynamic = 'force-dynamic';

const schema = Joi.object({
  window: Joi.string()
    .pattern(/^[\w-]{8,40}$/)
    .required(),
  name: Joi.string().trim().min(1).max(40).required(),
});

/** What happens to a kit and who has it open, as server-sent events. */
export const GET = route(
  async (request, { kit }) =>
    new Response(await kitEvents(database(), kit, query<OpenWindow>(request, schema), request.signal), {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
    }),
);
