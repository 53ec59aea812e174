import type { Worker } from 'node:worker_threads';

export interface ThreadLimits {
  /** More than this beyond what the process has when it is asked ends the thread. */
  memoryBytes: number;
  milliseconds: number;
}

export const READING_LIMITS: ThreadLimits = { memoryBytes: 2 ** 31, milliseconds: 120_000 };

/** Why a thread gave no answer. */
export type Ending = 'too-slow' | 'too-large' | 'reader-died';

export interface Refusal {
  code: string;
  message: string;
  where: string | null;
}

const LOOK_EVERY = 100;

/** Asks a worker thread one thing at a time, under a ceiling of memory and a limit of time; one that dies is replaced by the next call. */
export class LimitedThread<Q, A> {
  private idle: Worker | null = null;
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly start: (resourceLimits: { maxOldGenerationSizeMb: number }) => Worker,
    readonly limits: ThreadLimits = READING_LIMITS,
  ) {}

  /** Its answer, or why there is none. Calls wait for each other, so that the memory one takes is its own. */
  ask(request: Q, limits: ThreadLimits = this.limits): Promise<A | Ending> {
    const next = this.queue.then(() => this.askNow(request, limits));
    this.queue = next.catch(() => undefined);
    return next;
  }

  private async askNow(request: Q, limits: ThreadLimits): Promise<A | Ending> {
    const worker = this.idle ?? this.start({ maxOldGenerationSizeMb: limits.memoryBytes / 2 ** 20 });
    this.idle = null;
    worker.ref();
    const before = process.memoryUsage.rss();
    const answer = await new Promise<{ given: A } | Ending>((resolve) => {
      const done = (result: { given: A } | Ending) => {
        clearTimeout(limit);
        clearInterval(look);
        worker.off('message', given).off('error', failed).off('exit', ended);
        resolve(result);
      };
      const limit = setTimeout(() => done('too-slow'), limits.milliseconds);
      const look = setInterval(() => {
        if (process.memoryUsage.rss() - before > limits.memoryBytes) done('too-large');
      }, LOOK_EVERY);
      const given = (message: A) => done({ given: message });
      const failed = (error: NodeJS.ErrnoException) => done(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? 'too-large' : 'reader-died');
      const ended = () => done('reader-died');
      worker.on('message', given).on('error', failed).on('exit', ended);
      // A copy goes over: the caller keeps its own.
      worker.postMessage(request);
    });
    if (typeof answer === 'string') {
      worker.on('error', () => undefined);
      await worker.terminate();
      return answer;
    }
    worker.unref();
    this.idle = worker;
    return answer.given;
  }
}

/** Why a file got no answer, in a sentence. */
export function refusalOf(ending: Ending, fileName: string, { milliseconds }: ThreadLimits): Refusal {
  const simplify = 'Simplify it, or split it into several files.';
  const messages = {
    'too-slow': `“${fileName}” takes longer to read than ${Math.round(milliseconds / 1000)} s. ${simplify}`,
    'too-large': `“${fileName}” needs more memory than reading may use. ${simplify}`,
    'reader-died': `“${fileName}” could not be read: its reader broke off. Nothing else is harmed. Export it again, in another format if you can.`,
  };
  return { code: ending, message: messages[ending], where: fileName };
}
