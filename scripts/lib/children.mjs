import { spawn } from 'node:child_process';
import { ROOT } from './paths.mjs';
import { isAlive, sleep } from './run.mjs';
import { Plain } from './say.mjs';

/** Processes that were started and have not ended, each in a group of its own, so that Ctrl-C reaches the starter alone. */
const running = new Set();

/** Starts a program in a group of its own. It is ended by `endChildren`. */
export function start(command, args, options = {}) {
  const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options, detached: true });
  running.add(child);
  child.once('exit', () => running.delete(child));
  return child;
}

/** Runs a program to its end, with others served meanwhile. Throws a sentence where it fails. */
export function runWatched(command, args, { env = process.env, what = `${command} ${args.join(' ')}` } = {}) {
  return new Promise((resolve, reject) => {
    const child = start(command, args, { env });
    child.once('error', (error) => reject(new Plain(`“${what}” could not be started: ${error.message}.`)));
    child.once('exit', (status) => (status === 0 ? resolve() : reject(new Plain(`“${what}” failed; what it said stands above.`))));
  });
}

function signal(child, name) {
  try {
    process.kill(-child.pid, name);
  } catch {
    // It ended by itself.
  }
}

/** Ends a program and all that it started: kindly, and after a while not. */
export async function end(child, patienceSeconds = 5) {
  signal(child, 'SIGTERM');
  for (let i = 0; i < 10 * patienceSeconds && groupIsAlive(child); i++) await sleep(100);
  if (groupIsAlive(child)) signal(child, 'SIGKILL');
}

const groupIsAlive = (child) => child.pid !== undefined && isAlive(-child.pid);

export const endChildren = () => Promise.all([...running].map((child) => end(child)));
