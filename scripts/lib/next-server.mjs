import { readdirSync } from 'node:fs';
import { basename, dirname, join, sep } from 'node:path';
import { ensureReadWorker, READ_WORKER } from './bundle.mjs';
import { end, start } from './children.mjs';
import { LOG, ROOT, WEB } from './paths.mjs';
import { sleep } from './run.mjs';
import { Plain } from './say.mjs';

/**
 * How long a connection is kept that is not used, milliseconds: longer than browsers and proxies keep theirs, so that none is closed
 * here while a request is on its way.
 */
const KEPT_ALIVE = '320000';

/** Starts the application on loopback and waits until it answers. */
export async function startNext({ port, databaseUrl, dev = false, stdio = 'inherit', log = LOG, onStarted = () => {} }) {
  await ensureReadWorker();
  const args = [dev ? 'dev' : 'start', WEB, '-H', '127.0.0.1', '-p', String(port), ...(dev ? [] : ['--keepAliveTimeout', KEPT_ALIVE])];
  const env = {
    ...process.env,
    DATABASE_URL: databaseUrl,
    NEXT_TELEMETRY_DISABLED: '1',
    ITCHKIT_READ_WORKER: READ_WORKER,
    ITCHKIT_LOG: log,
    NODE_ENV: dev ? 'development' : 'production',
  };
  const child = start(process.execPath, [join(ROOT, 'node_modules/next/dist/bin/next'), ...args], {
    env,
    stdio: dev ? stdio : ['ignore', 'ignore', stdio === 'inherit' ? 'inherit' : 'ignore'],
  });
  onStarted(child);
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
    if (i === 599) {
      await end(child);
      throw new Plain(`The application did not answer within a minute. Its log is ${log}.`);
    }
  }
  if (!dev) void loadRoutes(port);
  const stop = () => end(child);
  return { child, stop };
}

/**
 * Has every route loaded before it is asked for: Next loads what a route needs at its first request, and whoever asks meanwhile would wait
 * for it, half a second where files are taken in.
 */
async function loadRoutes(port) {
  const folder = join(WEB, 'src/app/api');
  const routes = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => basename(file) === 'route.ts');
  for (const file of routes) {
    const path = dirname(file).split(sep).join('/').replaceAll(/[[\]]/g, '');
    const answered = await fetch(`http://127.0.0.1:${port}/api/${path}`, { method: 'OPTIONS' }).catch(() => null);
    // It is gone already.
    if (!answered) return;
  }
}
