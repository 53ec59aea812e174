import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { setInterval } from 'node:timers';
import { join } from 'node:path';
import { ensureBuild } from './lib/build.mjs';
import { endChildren, runWatched } from './lib/children.mjs';
import { startNext } from './lib/next-server.mjs';
import { LOG, ROOT } from './lib/paths.mjs';
import { startProjectServer } from './lib/postgres.mjs';
import { claimRun, clearRun, writeRun } from './lib/run-record.mjs';
import { main, Plain, say } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

const dev = process.argv.includes('--dev');

function portIsFree(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

await main(async () => {
  const port = Number(process.env.PORT ?? 3210);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Plain(`PORT is “${process.env.PORT}”; it has to be a number from 1 to 65535.`);

  const record = { starter: process.pid, port };
  const undo = [];
  let stopping = null;
  /** Ends what was started, the last first, once: whoever asks meanwhile waits for the same end. */
  const stop = (code, sentence) =>
    (stopping ??= (async () => {
      say(sentence ?? '\nStopping …');
      await endChildren();
      for (const back of undo.toReversed()) await back();
      process.exit(code);
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  watchNpm(() => void stop(0));

  const other = await claimRun(record);
  if (other)
    throw new Plain(
      `Itch Kit already runs from this folder, at http://127.0.0.1:${other.port} (process ${other.starter}). Stop it there with Ctrl-C first.`,
    );
  undo.push(clearRun);
  const also = (fields) => writeRun(Object.assign(record, fields));
  try {
    if (!(await portIsFree(port)))
      throw new Plain(
        `Port ${port} is taken by another program. Stop that, or choose another port: PORT=${port === 65535 ? 3210 : port + 1} npm run ${dev ? 'dev' : 'demo'}`,
      );
    await setUp({ database: !process.env.DATABASE_URL });
    if (!dev) await ensureBuild();
    let url = process.env.DATABASE_URL;
    if (!url) {
      const server = await startProjectServer({
        onStarted: ({ pid, stop: stopServer }) => {
          also({ database: pid });
          undo.splice(1, undo.length, stopServer);
        },
        onLost: (sentence) => void stop(1, sentence),
        isStopping: () => stopping !== null,
      });
      url = server.url;
    }
    await runWatched(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
      env: { ...process.env, DATABASE_URL: url },
      what: 'preparing the database',
    });
    const application = await startNext({ port, databaseUrl: url, dev, onStarted: ({ pid }) => also({ application: pid }) });
    application.child.once('exit', (code) => void stop(1, `\nThe application ended by itself (${code ?? 'killed'}). Its log is ${LOG}.`));
  } catch (error) {
    // Broken off by a signal: what failed of it is no news.
    if (stopping) await stopping;
    await endChildren();
    for (const back of undo.toReversed()) await back();
    throw error;
  }
  say(`\nItch Kit is at http://127.0.0.1:${port}   (Ctrl-C stops it)`);
});

/**
 * npm that is killed tells its program nothing, nor does the shell between: where npm started us and one of them is gone, we end too. Needs
 * /proc; where there is none, nothing is watched.
 */
function watchNpm(onGone) {
  if (!process.env.npm_lifecycle_event) return;
  const above = [];
  for (let pid = process.pid; above.length < 2;) {
    pid = parentOf(pid);
    if (pid <= 1) break;
    above.push(pid);
  }
  const began = above.map(beginningOf);
  setInterval(() => {
    if (above.some((pid, i) => beginningOf(pid) !== began[i])) onGone();
  }, 500).unref();
}

/** Fields of /proc/PID/stat behind the program's name. */
function fieldsOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
  } catch {
    return null;
  }
}

function parentOf(pid) {
  return Number(fieldsOf(pid)?.[1] ?? 0);
}

/** When a process began, in ticks: another one with the same number has another; null for one that is gone, or only not yet buried. */
function beginningOf(pid) {
  const fields = fieldsOf(pid);
  return fields === null || fields[0] === 'Z' ? null : fields[19];
}
