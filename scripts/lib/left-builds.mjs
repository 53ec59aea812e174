import { readdirSync, readFileSync, readlinkSync } from 'node:fs';
import { ROOT } from './paths.mjs';

const read = (path) => {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
};

const folderOf = (pid) => {
  try {
    return readlinkSync(`/proc/${pid}/cwd`);
  } catch {
    return '';
  }
};

/**
 * Ends builds of this project whose starter was killed: they go on alone, and no other build can begin beside them.
 * One whose starter is alive is let be. Reads /proc; where there is none, nothing is found.
 */
export function endLeftBuilds() {
  let names;
  try {
    names = readdirSync('/proc');
  } catch {
    return 0;
  }
  let ended = 0;
  for (const pid of names.filter((name) => /^\d+$/.test(name))) {
    if (!read(`/proc/${pid}/cmdline`).startsWith('next-build') || folderOf(pid) !== ROOT) continue;
    const parent = read(`/proc/${pid}/stat`)
      .replace(/^.*\) /, '')
      .split(' ')[1];
    if (read(`/proc/${parent}/cmdline`).includes('node') && folderOf(parent) === ROOT) continue;
    try {
      process.kill(Number(pid), 'SIGKILL');
      ended++;
    } catch {
      // It ended by itself.
    }
  }
  return ended;
}
