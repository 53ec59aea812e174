import { join } from 'node:path';
import { ensureReadWorker, READ_WORKER } from './bundle.mjs';
import { ROOT, WEB } from './paths.mjs';
import { nodeProgram, sleep } from './run.mjs';
import { Plain } from './say.mjs';

/** Starts the application on loopback and waits until it answers. */
export async function startNext({ port, databaseUrl, dev = false, stdio = 'inherit' }) {
  await ensureReadWorker();
  const args = [dev ? 'dev' : 'start', WEB, '-H', '127.0.0.1', '-p', String(port)];
  const env = {
    ...process.env,
    DATABASE_URL: databaseUrl,
    NEXT_TELEMETRY_DISABLED: '1',
    ITCHKIT_READ_WORKER: READ_WORKER,
    NODE_ENV: dev ? 'development' : 'production',
  };
  // A process group of its own: Ctrl-C reaches the starter alone, which stops things in order.
  const child = nodeProgram(join(ROOT, 'node_modules/next/dist/bin/next'), args, {
    env,
    stdio: dev ? stdio : ['ignore', 'ignore', stdio === 'inherit' ? 'inherit' : 'ignore'],
    detached: true,
  });
  let ended = false;
  child.once('exit', () => (ended = true));
  for (let i = 0; i < 600; i++) {
    if (ended) throw new Plain('The application ended while it was starting; what it said stands above.');
    try {
      const response = await fetch(`http://127.0.0.1:${port}/api/health`);
      if (response.ok) break;
    } catch {
      // not yet
    }
    await sleep(100);
    if (i === 599) throw new Plain('The application did not answer within a minute.');
  }
  const stop = async () => {
    if (ended) return;
    process.kill(-child.pid, 'SIGTERM');
    for (let i = 0; i < 50 && !ended; i++) await sleep(100);
    if (!ended) process.kill(-child.pid, 'SIGKILL');
  };
  return { child, stop };
}
