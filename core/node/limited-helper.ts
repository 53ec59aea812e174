export interface Limits {
  /** More than this beyond what it has when it is asked ends the helper. */
  memoryBytes: number;
  milliseconds: number;
}

export const READING_LIMITS: Limits = { memoryBytes: 2 ** 31, milliseconds: 120_000 };

/** Why a helper gave no answer. */
export type Ending = 'too-slow' | 'too-large' | 'reader-died';

export interface Refusal {
  code: string;
  message: string;
  where: string | null;
}

/** Something that works beside this thread: a thread, or a process. */
export interface Helper<Q, A> {
  post(request: Q): void;
  /** Told each answer, or once how it ended. */
  listen(onAnswer: (answer: A) => void, onEnd: (ending: Ending) => void): () => void;
  /** Bytes of memory that it has, or that the process it is in has. */
  memory(): number;
  /** Whether it keeps this process alive. */
  hold(holds: boolean): void;
  end(): Promise<void>;
}

const LOOK_EVERY = 100;

/** Asks a helper one thing at a time, under a ceiling of memory and a limit of time; one that dies is replaced by the next call. */
export class LimitedHelper<Q, A> {
  private idle: Helper<Q, A> | null = null;
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly start: (limits: Limits) => Helper<Q, A>,
    readonly limits: Limits = READING_LIMITS,
  ) {}

  /** Its answer, or why there is none. Calls wait for each other, so that the memory one takes is its own. */
  ask(request: Q, limits: Limits = this.limits): Promise<A | Ending> {
    const next = this.queue.then(() => this.askNow(request, limits));
    this.queue = next.catch(() => undefined);
    return next;
  }

  private async askNow(request: Q, limits: Limits): Promise<A | Ending> {
    const helper = this.idle ?? this.start(limits);
    this.idle = null;
    helper.hold(true);
    const before = helper.memory();
    const answer = await new Promise<{ given: A } | Ending>((resolve) => {
      const done = (result: { given: A } | Ending) => {
        clearTimeout(limit);
        clearInterval(look);
        unlisten();
        resolve(result);
      };
      const limit = setTimeout(() => done('too-slow'), limits.milliseconds);
      const look = setInterval(() => {
        if (helper.memory() - before > limits.memoryBytes) done('too-large');
      }, LOOK_EVERY);
      const unlisten = helper.listen((given) => done({ given }), done);
      // A copy goes over: the caller keeps its own.
      helper.post(request);
    });
    if (typeof answer === 'string') {
      await helper.end();
      return answer;
    }
    helper.hold(false);
    this.idle = helper;
    return answer.given;
  }
}

/** Why a file got no answer, in a sentence. */
export function refusalOf(ending: Ending, fileName: string, { milliseconds }: Limits): Refusal {
  const simplify = 'Simplify it, or split it into several files.';
  const messages = {
    'too-slow': `“${fileName}” takes longer to read than ${Math.round(milliseconds / 1000)} s. ${simplify}`,
    'too-large': `“${fileName}” needs more memory than reading may use. ${simplify}`,
    'reader-died': `“${fileName}” could not be read: its reader broke off. Nothing else is harmed. Export it again, in another format if you can.`,
  };
  return { code: ending, message: messages[ending], where: fileName };
}
