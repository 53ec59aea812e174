import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DATA } from './paths.mjs';
import { isAlive, sleep } from './run.mjs';

const FILE = join(DATA, 'run.json');

function isOurs(pid, word) {
  try {
    return isAlive(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word);
  } catch {
    return false;
  }
}

/**
 * What an earlier start left: null where nothing runs any more. An application whose starter was killed is ended here, so
 * that its port is free; a start that is still alive is reported.
 */
export async function earlierRun() {
  if (!existsSync(FILE)) return null;
  let record;
  try {
    record = JSON.parse(readFileSync(FILE, 'utf8'));
  } catch {
    rmSync(FILE, { force: true });
    return null;
  }
  if (isOurs(record.starter, 'scripts/demo.mjs')) return record;
  if (isOurs(record.application, 'next')) {
    try {
      process.kill(-record.application, 'SIGKILL');
    } catch {
      process.kill(record.application, 'SIGKILL');
    }
    for (let i = 0; i < 30 && isAlive(record.application); i++) await sleep(100);
  }
  rmSync(FILE, { force: true });
  return null;
}

export function writeRun(record) {
  mkdirSync(DATA, { recursive: true });
  writeFileSync(FILE, JSON.stringify(record));
}

export function clearRun() {
  rmSync(FILE, { force: true });
}
