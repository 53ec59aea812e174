// The thread that the command line does its jobs in.
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parentPort } from 'node:worker_threads';
import { runCached } from './run-cached.mjs';

const keep = runCached(join(dirname(fileURLToPath(import.meta.url)), 'dist/jobs.cjs'));
// The thread is ended from outside once there is nothing left to do: what it compiled is kept when it is told so.
parentPort.on('message', (message) => {
  if (message === 'end') {
    keep();
    process.exit();
  }
});
