import { join, resolve } from 'node:path';
import { ensureReadWorker, READ_WORKER } from './lib/bundle.mjs';
import { runWatched } from './lib/children.mjs';
import { ROOT } from './lib/paths.mjs';
import { startProjectServer } from './lib/postgres.mjs';
import { main, Plain } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

/** `npm run backup -- FOLDER` and `npm run restore -- FOLDER`, whether the application runs or not. */
await main(async () => {
  const [verb, folder] = process.argv.slice(2);
  if (!folder) throw new Plain(`Say which folder: npm run ${verb} -- FOLDER`);
  await setUp({ database: !process.env.DATABASE_URL });
  await ensureReadWorker();
  const server = process.env.DATABASE_URL ? { url: process.env.DATABASE_URL, isOurs: false } : await startProjectServer();
  try {
    // npm runs scripts in the project's folder; INIT_CWD is where the person is.
    await runWatched(
      process.execPath,
      ['--import', 'tsx', join(ROOT, 'web/src/server/backup.ts'), verb, resolve(process.env.INIT_CWD ?? '.', folder)],
      { env: { ...process.env, DATABASE_URL: server.url, ITCHKIT_READ_WORKER: READ_WORKER }, what: verb },
    );
  } finally {
    if (server.isOurs) await server.stop();
  }
});
