import type { FieldChange, Kit } from '@itchkit/core/document';
import type { GradeCounts, OwedByStage, Rulebook } from '@itchkit/core/rulebook';
import type { Manifest } from '@itchkit/core/ship';
import { nanoid } from 'nanoid';
import { packFrames, unpackFrames } from './blob-message';

/** What the server said went wrong; the message is a sentence for people. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly body: { revision?: number; document?: Kit; missing?: string[]; where?: string | null } = {},
  ) {
    super(message);
  }
}

/** The server could not be reached at all. */
export class OfflineError extends Error {
  constructor() {
    super('The server does not answer. What you change is kept here and saved when it is back.');
  }
}

/** What takes longer than this has no answer, milliseconds. */
const LIMIT = 20_000;
/** What carries large data, or works long. */
const LONG_LIMIT = 180_000;
/** For a file to be sent and read. */
const FILE_LIMIT = 600_000;

async function call(path: string, init?: RequestInit, limit = LIMIT): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, { ...init, signal: AbortSignal.timeout(limit) });
  } catch {
    throw new OfflineError();
  }
  if (response.ok) return response;
  const isProblem = response.headers.get('content-type')?.includes('json');
  const body = (await response.json().catch(() => {
    // Cut off in the middle: nobody knows what it was to say.
    if (isProblem) throw new OfflineError();
    return {};
  })) as {
    code?: string;
    detail?: string;
    revision?: number;
    document?: Kit;
    missing?: string[];
    where?: string | null;
  };
  throw new ApiError(response.status, body.code ?? 'server', body.detail ?? `The server answered ${response.status}. Try again.`, body);
}

/** Pauses between tries of what makes something new, milliseconds. */
const PAUSES = [1000, 2000, 4000];

/**
 * Makes something new under a key of its own. Where no answer comes it is tried again under the same key, so that it is there once.
 *
 * @throws {OfflineError} where it stays without an answer
 */
async function makeOnce<T>(make: (key: string) => Promise<T>, pauses = PAUSES): Promise<T> {
  const key = nanoid();
  for (const pause of pauses) {
    try {
      return await make(key);
    } catch (error) {
      if (!(error instanceof OfflineError)) throw error;
      await new Promise((resolve) => setTimeout(resolve, pause));
    }
  }
  return make(key);
}

const KEY_HEADER = 'idempotency-key';

async function send<T>(method: string, path: string, body?: unknown, limit = LIMIT, headers: Record<string, string> = {}): Promise<T> {
  const init = {
    method,
    headers: body === undefined ? headers : { ...headers, 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  };
  const response = await call(path, init, limit);
  try {
    return (await response.json()) as T;
  } catch {
    // Cut off in the middle.
    throw new OfflineError();
  }
}

export interface ShelfKit {
  id: string;
  name: string;
  targets: Kit['targets'];
  parts: number;
  triangles: number;
  revision: number;
  counts: GradeCounts | null;
  /** By target. */
  owed: Record<string, OwedByStage> | null;
  thumbnailRevision: number | null;
  changedAt: string;
}

export interface BuiltRow {
  id: string;
  revision: number;
  rulebook: string;
  version: string;
  fileName: string;
  sha: string;
  size: number;
  manifest: Manifest;
  at: string;
}

export interface RevisionRow {
  number: number;
  cause: string;
  at: string;
  /** Given by a person; a revision with a name stays. */
  name: string | null;
  /** Changes that did not fit, kept beside it. */
  notes: { title: string; changes: FieldChange[]; at: string }[] | null;
}

/** What is kept of old revisions, and of kits off the shelf. */
export interface HistoryFigures {
  /** Days. */
  policy: { allDays: number; hourlyDays: number; binDays: number };
  revisions: number;
  bytes: number;
  bin: { id: string; name: string; deletedAt: string }[];
}

export const api = {
  history: () => send<HistoryFigures>('GET', '/api/history'),
  setHistory: (policy: HistoryFigures['policy']) => send<HistoryFigures>('PUT', '/api/history', policy, LONG_LIMIT),
  dropKit: (id: string) => send('DELETE', `/api/history/bin/${id}`),
  listKits: () => send<ShelfKit[]>('GET', '/api/kits'),
  loadKit: (id: string) => send<{ id: string; revision: number; document: Kit }>('GET', `/api/kits/${id}`),
  /** The same save may be told again by its key: it is done once, and answered alike. */
  saveKit: (id: string, { base, key, title: cause, changes }: { base: number; key: string; title: string; changes: FieldChange[] }) =>
    send<{ revision: number }>('PATCH', `/api/kits/${id}`, { base, key, changes, cause }),
  deleteKit: (id: string) => send('DELETE', `/api/kits/${id}`),
  restoreKit: (id: string) => send('POST', `/api/kits/${id}/restore`),
  duplicateKit: (id: string) =>
    makeOnce((key) => send<{ id: string }>('POST', `/api/kits/${id}/duplicate`, undefined, LIMIT, { [KEY_HEADER]: key })),
  /** A crane to learn by. */
  learnKit: () => makeOnce((key) => send<{ id: string }>('POST', '/api/learn', undefined, LONG_LIMIT, { [KEY_HEADER]: key })),
  setSummary: (id: string, revision: number, counts: GradeCounts, owed: Record<string, OwedByStage>) =>
    send('PUT', `/api/kits/${id}/summary`, { revision, counts, owed }),
  setThumbnail: (id: string, revision: number, png: Blob) =>
    call(`/api/kits/${id}/thumbnail?revision=${revision}`, { method: 'PUT', body: png }),
  listPackages: (id: string) => send<BuiltRow[]>('GET', `/api/kits/${id}/packages`),
  listRevisions: (id: string) => send<RevisionRow[]>('GET', `/api/kits/${id}/revisions`),
  loadRevision: (id: string, number: number) => send<RevisionRow & { document: Kit }>('GET', `/api/kits/${id}/revisions/${number}`),
  noteRevision: (id: string, number: number, title: string, changes: FieldChange[]) =>
    send('POST', `/api/kits/${id}/revisions/${number}/note`, { title, changes }),
  nameRevision: (id: string, number: number, name: string | null) => send('PUT', `/api/kits/${id}/revisions/${number}`, { name }),
  /** The kit's source as it was read; null where it is not kept. */
  readSource: (id: string) => send<{ kit: Kit | null }>('POST', `/api/kits/${id}/source`, undefined, LONG_LIMIT),
  listRulebooks: () => send<Rulebook[]>('GET', '/api/rulebooks'),
  saveRulebook: (rulebook: unknown) => send<Rulebook>('POST', '/api/rulebooks', rulebook),
  deleteRulebook: (id: string) => send<{ versions: number }>('DELETE', `/api/rulebooks/${id}`),
  buildPackage: (id: string) => send<BuiltRow>('POST', `/api/kits/${id}/packages`, undefined, LONG_LIMIT),
  async loadBlobs(shas: string[]): Promise<[string, Uint8Array][]> {
    if (shas.length === 0) return [];
    const init = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ shas }) };
    const response = await call('/api/blobs', init, LONG_LIMIT);
    try {
      return unpackFrames(new Uint8Array(await response.arrayBuffer()));
    } catch {
      throw new OfflineError();
    }
  },
  storeBlobs: (entries: [string, Uint8Array][]) =>
    call('/api/blobs', { method: 'PUT', body: packFrames(entries) as Uint8Array<ArrayBuffer> }, LONG_LIMIT),
};

/** Sends a file with progress (0 to 1), cancellable. Gives the id of the kit made from it. */
export async function takeInFile(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<string> {
  return (await makeOnce((key) => sendFile<{ id: string }>('/api/kits', file, onProgress, signal, key))).id;
}

/** Reads a file beside a kit: nothing of the kit is changed. */
export async function readFileBeside(id: string, file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<Kit> {
  return (await sendFile<{ kit: Kit }>(`/api/kits/${id}/readings`, file, onProgress, signal)).kit;
}

function sendFile<T>(path: string, file: File, onProgress: (share: number) => void, signal: AbortSignal, key?: string): Promise<T> {
  return new Promise((resolve, reject) => {
    const cancelled = () => reject(new DOMException('Cancelled', 'AbortError'));
    if (signal.aborted) return cancelled();
    const request = new XMLHttpRequest();
    request.open('POST', path);
    request.timeout = FILE_LIMIT;
    request.setRequestHeader('x-file-name', encodeURIComponent(file.name));
    request.setRequestHeader('content-type', 'application/octet-stream');
    if (key !== undefined) request.setRequestHeader(KEY_HEADER, key);
    request.upload.onprogress = (event) => onProgress(event.lengthComputable ? event.loaded / event.total : 0);
    request.onload = () => {
      let body: T & { code?: string; detail?: string };
      try {
        body = JSON.parse(request.responseText || '{}') as typeof body;
      } catch {
        return reject(new OfflineError());
      }
      if (request.status === 201) resolve(body);
      else reject(new ApiError(request.status, body.code ?? 'server', body.detail ?? `The server answered ${request.status}. Try again.`));
    };
    request.onerror = () => reject(new OfflineError());
    request.ontimeout = () => reject(new OfflineError());
    request.onabort = cancelled;
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
