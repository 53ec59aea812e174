import Joi from 'joi';
import { KitError } from '@itchkit/core/document';
import { packFrames, unpackFrames } from '../../../blob-message';
import { loadBlobs, storeBlobs } from '../../../server/blob-store';
import { database } from '../../../server/database';
import { json, jsonBody, readBody, route } from '../../../server/route';
import { MAX_FILE_BYTES } from '@itchkit/core/intake';

export const dynamic = 'force-dynamic';

const shas = Joi.object({
  shas: Joi.array()
    .items(Joi.string().pattern(/^[0-9a-f]{64}$/))
    .max(50_000)
    .required(),
});

/** Answers the blobs that are named, in one message of frames. */
export const POST = route(async (request) => {
  const wanted = await jsonBody<{ shas: string[] }>(request, shas);
  const found = await loadBlobs(database(), wanted.shas);
  return new Response(packFrames([...found]) as Uint8Array<ArrayBuffer>, { headers: { 'content-type': 'application/octet-stream' } });
});

/** Stores the blobs of a message of frames. */
export const PUT = route(async (request) => {
  const message = await readBody(request, MAX_FILE_BYTES, 'A change');
  let entries: [string, Uint8Array][];
  try {
    entries = unpackFrames(message);
  } catch {
    throw new KitError('request', 'The data blocks arrived cut short. They will be sent again.');
  }
  await storeBlobs(database(), entries);
  return json({ stored: entries.length });
});
