import { mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DATA } from './paths.mjs';
import { isAlive, sleep } from './run.mjs';

/** What a start leaves word of itself in, before it starts anything. */
const FILE = join(DATA, 'run.json');

function isOurs(pid, word) {
  try {
    return isAlive(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word);
  } catch {
    return false;
  }
}

function read(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}

/** Whether another start is just writing its word. */
function isFresh() {
  try {
    return Date.now() - statSync(FILE).mtimeMs < 2000;
  } catch {
    return false;
  }
}

/** An application whose starter was killed is ended, so that its port is free. */
async function endLeft({ application }) {
  if (!application || !isOurs(application, 'next')) return;
  try {
    process.kill(-application, 'SIGKILL');
  } catch {
    process.kill(application, 'SIGKILL');
  }
  for (let i = 0; i < 30 && isAlive(application); i++) await sleep(100);
}

/**
 * Takes the folder for this start: of several at once one gets it.
 *
 * @returns {Promise<null | { starter: number, port: number }>} The start that has it, of which nothing is touched; null where it is ours.
 */
export async function claimRun(record) {
  mkdirSync(DATA, { recursive: true });
  for (;;) {
    try {
      writeFileSync(FILE, JSON.stringify(record), { flag: 'wx', mode: 0o600 });
      return null;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    const other = read(FILE);
    if (other && isOurs(other.starter, 'scripts/demo.mjs')) return other;
    if (!other && isFresh()) {
      await sleep(100);
      continue;
    }
    // Moved away first, so that of two starts that find it one alone goes on with it.
    const left = `${FILE}.${process.pid}`;
    try {
      renameSync(FILE, left);
    } catch {
      continue;
    }
    await endLeft(read(left) ?? {});
    rmSync(left, { force: true });
  }
}

/** More of what was started. */
export function writeRun(record) {
  const half = `${FILE}.${process.pid}`;
  writeFileSync(half, JSON.stringify(record), { mode: 0o600 });
  renameSync(half, FILE);
}

export function clearRun() {
  rmSync(FILE, { force: true });
}
