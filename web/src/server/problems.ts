import { KitError } from '@itchkit/core/document';
import { log, LOG_FILE } from './log';

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

/**
 * An RFC 9457 problem; `detail` is the sentence that the interface shows as it is.
 *
 * @param request The request's id, by which the log's entry is found.
 */
export function problem(error: unknown, request: string): Response {
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
  log().error({ request, error }, 'a request failed');
  const away = isDatabaseError(error);
  const entry = `The entry “${request}” in the log${LOG_FILE === null ? '' : ` (${LOG_FILE})`} says more.`;
  const detail = away
    ? 'The database does not answer just now. Nothing was lost; what is not saved yet is tried again.'
    : `Something went wrong in the server. Nothing was changed. ${entry}`;
  const status = away ? 503 : 500;
  return problemResponse(status, { type: 'urn:itchkit:server', title: 'Server error', status, code: 'server', detail, request });
}

function isDatabaseError(error: unknown): boolean {
  const cause = (error as { cause?: unknown } | null)?.cause ?? error;
  const code = (cause as { code?: unknown } | null)?.code;
  if (typeof code === 'string') return code.startsWith('ECONN') || code.startsWith('57') || code.startsWith('08');
  return (
    cause instanceof Error && /Connection terminated|timeout exceeded when trying to connect|Client has encountered/.test(cause.message)
  );
}

function problemResponse(status: number, body: object): Response {
  return new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/problem+json' } });
}
