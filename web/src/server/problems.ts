import pino from 'pino';
import { KitError } from '@itchkit/core/document';

const log = pino({ name: 'itch-kit', level: process.env.LOG_LEVEL ?? 'warn' });

const STATUS: Record<string, number> = {
  'not-found': 404,
  stale: 409,
  'blobs-missing': 409,
  'too-large': 413,
  'not-known': 415,
  'stops-open': 409,
  'no-target': 409,
  host: 403,
  origin: 403,
};

/** An RFC 9457 problem; `detail` is the sentence that the interface shows as it is. */
export function problem(error: unknown): Response {
  if (error instanceof KitError) {
    const status = STATUS[error.code] ?? 422;
    return problemResponse(status, {
      type: `urn:itchkit:${error.code}`,
      title: error.name,
      status,
      code: error.code,
      detail: error.message,
      where: error.where,
      ...error.told,
    });
  }
  log.error(error);
  const detail = isDatabaseError(error)
    ? 'The database does not answer just now. Nothing was lost; what is not saved yet is tried again.'
    : 'Something went wrong in the server. Nothing was changed; the log says more.';
  return problemResponse(500, { type: 'urn:itchkit:server', title: 'Server error', status: 500, code: 'server', detail });
}

function isDatabaseError(error: unknown): boolean {
  const cause = (error as { cause?: unknown } | null)?.cause ?? error;
  const code = (cause as { code?: unknown } | null)?.code;
  return typeof code === 'string' && (code.startsWith('ECONN') || code.startsWith('57') || code.startsWith('08'));
}

function problemResponse(status: number, body: object): Response {
  return new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/problem+json' } });
}
