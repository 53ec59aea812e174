import { Worker } from 'node:worker_threads';
import { IntakeError } from '@itchkit/core/intake';
import type { Rulebook } from '@itchkit/core/rulebook';
import { LimitedThread, READING_LIMITS, refusalOf, type ThreadLimits } from '@itchkit/core/node/limited-thread';
import type { ReadAnswer, ReadRequest } from './read-worker';

/** A file as it came in, with its SHA-256 where that was worked out on the way. */
export type Upload = Pick<ReadRequest, 'bytes' | 'fileName' | 'sha'>;

export type Read = Extract<ReadAnswer, { ok: true }>;

const thread = new LimitedThread<ReadRequest, ReadAnswer>(
  (resourceLimits) => new Worker(/* turbopackIgnore: true */ workerPath(), { resourceLimits }),
);

/**
 * Reads a file in a worker thread with a ceiling of memory and a limit of time.
 *
 * @throws {IntakeError} where it is refused, too slow, too large, or the reader died of it: that file only
 */
export async function readInWorker(
  { bytes, fileName, sha }: Upload,
  rulebook: Rulebook | null,
  limits: ThreadLimits = READING_LIMITS,
): Promise<Read> {
  const answer = await thread.ask({ bytes, fileName, sha, rulebook }, limits);
  if (typeof answer !== 'string' && answer.ok) return answer;
  const refusal = typeof answer === 'string' ? refusalOf(answer, fileName, limits) : answer;
  throw new IntakeError(refusal.code, refusal.message, refusal.where);
}

function workerPath(): string {
  const path = process.env.ITCHKIT_READ_WORKER;
  if (!path) throw new Error('ITCHKIT_READ_WORKER is not set: start the application with “npm run demo”.');
  return path;
}
