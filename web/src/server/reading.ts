import { Worker } from 'node:worker_threads';
import { IntakeError, type Rulebook } from '@itchkit/core';
import type { ReadAnswer, ReadRequest } from './read-worker';

/** A file as it came in, with its SHA-256 where that was worked out on the way. */
export type Upload = Pick<ReadRequest, 'bytes' | 'fileName' | 'sha'>;

export type Read = Extract<ReadAnswer, { ok: true }>;

export interface ReadLimits {
  /** More than this beyond what the process has at the start ends a reading. */
  memoryBytes: number;
  milliseconds: number;
}

const LIMITS: ReadLimits = { memoryBytes: 2 ** 31, milliseconds: 120_000 };
const LOOK_EVERY = 100;

/** One reading at a time, so that the memory it takes is its own; others wait. */
let queue: Promise<unknown> = Promise.resolve();
let idle: Worker | null = null;

/**
 * Reads a file in a worker thread with a ceiling of memory and a limit of time.
 *
 * @throws {IntakeError} where it is refused, too slow, too large, or the reader died of it: that file only
 */
export function readInWorker({ bytes, fileName, sha }: Upload, rulebook: Rulebook | null, limits: ReadLimits = LIMITS): Promise<Read> {
  const next = queue.then(() => readNow({ bytes, fileName, sha, rulebook }, limits));
  queue = next.catch(() => undefined);
  return next;
}

function workerPath(): string {
  const path = process.env.ITCHKIT_READ_WORKER;
  if (!path) throw new Error('ITCHKIT_READ_WORKER is not set: start the application with “npm run demo”.');
  return path;
}

function takeWorker(limits: ReadLimits): Worker {
  const worker = idle ?? new Worker(/* turbopackIgnore: true */ workerPath(), { resourceLimits: { maxOldGenerationSizeMb: limits.memoryBytes / 2 ** 20 } });
  idle = null;
  return worker;
}

async function readNow(request: ReadRequest, limits: ReadLimits): Promise<Read> {
  const worker = takeWorker(limits);
  worker.ref();
  const { fileName } = request;
  const before = process.memoryUsage.rss();
  const answer = await new Promise<ReadAnswer | IntakeError>((resolve) => {
    const done = (result: ReadAnswer | IntakeError) => {
      clearTimeout(limit);
      clearInterval(look);
      worker.off('message', done).off('error', failed).off('exit', ended);
      resolve(result);
    };
    const limit = setTimeout(() => done(refusal('too-slow', fileName, `takes longer to read than ${Math.round(limits.milliseconds / 1000)} s`)), limits.milliseconds);
    const look = setInterval(() => {
      if (process.memoryUsage.rss() - before > limits.memoryBytes) done(tooMuch(fileName));
    }, LOOK_EVERY);
    const failed = (error: NodeJS.ErrnoException) => done(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch(fileName) : died(fileName));
    const ended = () => done(died(fileName));
    worker.on('message', done).on('error', failed).on('exit', ended);
    // A copy goes over: the caller keeps its own.
    worker.postMessage(request);
  });
  if (answer instanceof IntakeError) {
    worker.on('error', () => undefined);
    await worker.terminate();
    throw answer;
  }
  worker.unref();
  idle = worker;
  if (!answer.ok) throw new IntakeError(answer.code, answer.message, answer.where);
  return answer;
}

const refusal = (code: string, fileName: string, what: string) => new IntakeError(code, `“${fileName}” ${what}. Simplify it, or split it into several files.`, fileName);
const tooMuch = (fileName: string) => refusal('too-large', fileName, 'needs more memory than reading may use');
const died = (fileName: string) =>
  new IntakeError('reader-died', `“${fileName}” could not be read: its reader broke off. Nothing else is harmed. Export it again, in another format if you can.`, fileName);
