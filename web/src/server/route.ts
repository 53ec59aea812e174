import { createHash } from 'node:crypto';
import type Joi from 'joi';
import { nanoid } from 'nanoid';
import { KitError, mustBeKeepable } from '@itchkit/core/document';
import { MAX_FILE_BYTES } from '@itchkit/core/intake';
import { hostAllowed, wordsOfForeignHost } from './hosts';
import { problem } from './problems';
import type { Upload } from './reading';

type Params = Record<string, string>;
type Handler = (request: Request, params: Params) => Promise<Response>;

/** The largest number that the database's whole numbers hold. */
export const MOST_INTEGER = 2 ** 31 - 1;

const PARAM = /^[\w.-]{1,64}$/;

/**
 * A route handler with what all of them need: the caller's Host and Origin are looked at (so that no foreign page can reach a
 * server on loopback), ids in the path are such as ids can be, and errors become problem details with the request's id.
 */
export function route(handler: Handler) {
  return async (request: Request, context: { params: Promise<Params> }): Promise<Response> => {
    const id = nanoid(8);
    try {
      checkCaller(request);
      const params = (await context.params) ?? {};
      for (const value of Object.values(params))
        if (!PARAM.test(value)) throw new KitError('not-found', 'There is nothing of that name here. Go back to the shelf.');
      return await handler(request, params);
    } catch (error) {
      return problem(error, id);
    }
  };
}

function checkCaller(request: Request): void {
  const host = request.headers.get('host') ?? '';
  if (!hostAllowed(host)) throw new KitError('host', wordsOfForeignHost(host), host);
  const origin = request.headers.get('origin');
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const site = request.headers.get('sec-fetch-site');
  const foreign = origin === null ? site !== null && site !== 'same-origin' && site !== 'none' : hostOf(origin) !== host;
  if (foreign) throw new KitError('origin', 'Another site tried to change something here; that is not allowed.', origin);
}

/** Null for what is no address, as of a page without an origin of its own. */
const hostOf = (origin: string): string | null => (URL.canParse(origin) ? new URL(origin).host : null);

/** What the caller's file is called: `x-file-name`, percent-encoded. */
function fileNameOf(request: Request): string {
  const name = request.headers.get('x-file-name') ?? 'model';
  try {
    return decodeURIComponent(name).slice(0, 400);
  } catch {
    return name.slice(0, 400);
  }
}

const NEW_ID = /^[\w-]{12,64}$/;

/**
 * The id that a new thing is to have, made by the caller so that a request told twice makes it once: `idempotency-key`.
 *
 * @throws {KitError} where it is none
 */
export function newIdOf(request: Request): string | undefined {
  const id = request.headers.get('idempotency-key') ?? undefined;
  if (id !== undefined && !NEW_ID.test(id))
    throw new KitError('request', 'The request’s key does not fit: 12 to 64 letters, digits, “_” and “-”.', 'idempotency-key');
  return id;
}

const MAX_JSON = 64 * 1024 * 1024;

/** The JSON body, checked. @throws {KitError} where it is too large, no JSON, or does not fit */
export async function jsonBody<T>(request: Request, schema: Joi.Schema): Promise<T> {
  const bytes = await readBody(request, MAX_JSON, 'A change');
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new KitError('json', 'The request is not JSON.');
  }
  const { error } = schema.validate(value, { convert: false });
  if (error) throw new KitError('request', `The request does not fit: ${error.message}.`, error.details[0].path.join('.'));
  mustBeKeepable(value);
  return value as T;
}

/** The fields of the address behind its “?”, checked. @throws {KitError} where they do not fit */
export function query<T>(request: Request, schema: Joi.Schema): T {
  const fields = Object.fromEntries(new URL(request.url).searchParams);
  const { error, value } = schema.validate(fields);
  if (error) throw new KitError('request', `The address does not fit: ${error.message}.`, error.details[0].path.join('.'));
  mustBeKeepable(value);
  return value as T;
}

export class TooLargeError extends KitError {
  constructor(what: string, limit: number) {
    super(
      'too-large',
      `${what} is larger than ${Math.round(limit / 1024 / 1024)} MiB, the most that is taken in. Simplify it, or split it into several files.`,
    );
  }
}

/** After so many bytes of a body others are served: a socket that is always full would be read for as long as it is. */
const OTHERS_EVERY = 256 * 1024;

/**
 * Reads a body up to a limit. Past it, the rest is read and thrown away, so that the answer reaches a caller who is still
 * sending.
 *
 * @throws {TooLargeError}
 */
export async function readBody(request: Request, limit: number, what: string, onChunk?: (chunk: Uint8Array) => void): Promise<Uint8Array> {
  const announced = Number(request.headers.get('content-length') ?? 0);
  const chunks: Uint8Array[] = [];
  let size = 0;
  let over = announced > limit;
  let sinceOthers = 0;
  if (request.body) {
    const reader = request.body.getReader();
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      size += value.length;
      sinceOthers += value.length;
      if (sinceOthers > OTHERS_EVERY) {
        sinceOthers = 0;
        await new Promise(setImmediate);
      }
      if (size > limit) over = true;
      if (over) chunks.length = 0;
      else {
        chunks.push(value);
        onChunk?.(value);
      }
      if (size > 4 * limit) {
        await reader.cancel();
        break;
      }
    }
  }
  if (over) throw new TooLargeError(what, limit);
  const bytes = new Uint8Array(size);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

/** The file that is the body, hashed while it comes in. @throws {TooLargeError} */
export async function readUpload(request: Request): Promise<Upload> {
  const fileName = fileNameOf(request);
  const hash = createHash('sha256');
  const bytes = await readBody(request, MAX_FILE_BYTES, `“${fileName}”`, (chunk) => hash.update(chunk));
  return { bytes, fileName, sha: hash.digest('hex') };
}

export function json(value: unknown, status = 200): Response {
  return Response.json(value, { status, headers: { 'cache-control': 'no-store' } });
}
