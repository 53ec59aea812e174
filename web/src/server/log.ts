import { basename, dirname } from 'node:path';
import pino from 'pino';
import { createStream } from 'rotating-file-stream';

/** Where what goes wrong is written, in words for people; null where the start command named no file and it goes to the terminal. */
export const LOG_FILE: string | null = process.env.ITCHKIT_LOG ?? null;

const held = globalThis as unknown as { itchKitLog?: pino.Logger };

/** The process's log: a file of at most 5 MB, turned over, five kept. */
export function log(): pino.Logger {
  return (held.itchKitLog ??= makeLog());
}

function makeLog(): pino.Logger {
  const options = { name: 'itch-kit', level: process.env.LOG_LEVEL ?? 'warn', serializers: { error: pino.stdSerializers.err } };
  if (LOG_FILE === null) return pino(options);
  const file = createStream(basename(LOG_FILE), { path: dirname(LOG_FILE), size: '5M', maxFiles: 5, mode: 0o600 });
  // A full disk is no reason to end.
  file.on('error', () => undefined);
  return pino(options, file);
}
