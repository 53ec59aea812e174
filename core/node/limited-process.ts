import { fork } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import type { Helper, Limits } from './limited-helper';

/**
 * A process of its own as a helper: a Node program that answers each message with one of its own. Its memory is its alone (resident pages,
 * from /proc where there is one), with a limit of the kernel's behind the one that is watched; what it does takes nothing from this process
 * but the sending.
 */
export function processHelper<Q, A>(program: string, { memoryBytes }: Limits): Helper<Q, A> {
  const heap = Math.max(64, Math.floor(memoryBytes / 2 ** 20));
  const child = fork(program, [], {
    ...fenced([`--max-old-space-size=${heap}`], memoryBytes),
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  child.on('spawn', () => lowerPriority(child.pid!));
  // One that can't be started, or is gone when it is sent something, ends; `exit` tells it.
  child.on('error', () => undefined);
  return {
    post: (request) => void child.send(request as object, () => undefined),
    listen(onAnswer, onEnd) {
      const given = (message: unknown) => onAnswer(message as A);
      // V8 aborts where the heap is full.
      const ended = (code: number | null, signal: string | null) =>
        onEnd(signal === 'SIGABRT' || code === 134 ? 'too-large' : 'reader-died');
      if (child.exitCode !== null || child.signalCode !== null) ended(child.exitCode, child.signalCode);
      child.on('message', given).on('exit', ended);
      return () => void child.off('message', given).off('exit', ended);
    },
    memory: () => residentBytes(child.pid),
    hold(holds) {
      if (holds) {
        child.ref();
        child.channel?.ref();
      } else {
        child.unref();
        child.channel?.unref();
      }
    },
    end: () =>
      new Promise((resolve) => {
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', () => resolve());
        child.kill('SIGKILL');
      }),
  };
}

/** What Node has before it is asked anything, bytes. */
const OWN_BYTES = 384 * 2 ** 20;

/**
 * How Node is started so that the kernel gives it no more than so much: RLIMIT_DATA counts what a process may write to and has to itself
 * (getrlimit(2), Linux 4.7 on), and leaves out the addresses that V8 only holds free. The shell sets it and becomes Node; where there is
 * none, or it may not, the process starts without.
 */
function fenced(nodeArguments: string[], memoryBytes: number): { execPath?: string; execArgv: string[] } {
  if (process.platform !== 'linux' || !existsSync(SHELL)) return { execArgv: nodeArguments };
  const kilobytes = Math.ceil((memoryBytes + OWN_BYTES) / 1024);
  const script = `ulimit -d ${kilobytes} 2>/dev/null; exec "$0" "$@"`;
  return { execPath: SHELL, execArgv: ['-c', script, process.execPath, ...nodeArguments] };
}

const SHELL = '/bin/sh';

/** Steps of niceness: whoever answers people comes first. */
const BEHIND = 10;

function lowerPriority(pid: number): void {
  try {
    setPriority(pid, BEHIND);
  } catch {
    // It runs as the others do.
  }
}

const PAGE = 4096;

function residentBytes(pid: number | undefined): number {
  try {
    return PAGE * Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]);
  } catch {
    return 0;
  }
}
