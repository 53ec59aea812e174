import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureBuild } from './lib/build.mjs';
import { startNext } from './lib/next-server.mjs';
import { ROOT } from './lib/paths.mjs';
import { startProjectServer } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { clearRun, earlierRun, writeRun } from './lib/run-record.mjs';
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
  const other = await earlierRun();
  if (other)
    throw new Plain(
      `Itch Kit already runs from this folder, at http://127.0.0.1:${other.port} (process ${other.starter}). Stop it there with Ctrl-C first.`,
    );
  if (!(await portIsFree(port)))
    throw new Plain(
      `Port ${port} is taken by another program. Stop that, or choose another port: PORT=${port === 65535 ? 3210 : port + 1} npm run ${dev ? 'dev' : 'demo'}`,
    );

  setUp({ database: !process.env.DATABASE_URL });
  if (!dev) await ensureBuild();

  const database = process.env.DATABASE_URL ? { url: process.env.DATABASE_URL, stop: async () => {} } : await startProjectServer();
  let application;
  let stopping = false;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    say('\nStopping …');
    await application?.stop();
    await database.stop();
    clearRun();
    process.exit(code);
  };
  process.on('SIGINT', () => void stop(0));
  process.on('SIGTERM', () => void stop(0));
  try {
    run(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
      env: { ...process.env, DATABASE_URL: database.url },
      what: 'preparing the database',
    });
    application = await startNext({ port, databaseUrl: database.url, dev });
  } catch (error) {
    await database.stop();
    throw error;
  }
  writeRun({ starter: process.pid, application: application.child.pid, port });
  application.child.once('exit', () => void stop(1));
  say(`\nItch Kit is at http://127.0.0.1:${port}   (Ctrl-C stops it)`);
});
