import { createServer } from 'node:net';
import { join } from 'node:path';
// The start command's own modules, plain JavaScript.
import { ensureBuild } from '../scripts/lib/build.mjs';
import { startNext } from '../scripts/lib/next-server.mjs';
import { ROOT } from '../scripts/lib/paths.mjs';
import { startThrowawayServer } from '../scripts/lib/postgres.mjs';
import { run } from '../scripts/lib/run.mjs';

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/** The production build with an empty shelf on a database of its own, for as long as `use` takes. */
export async function withApplication<T>(use: (url: string) => Promise<T>): Promise<T> {
  await ensureBuild();
  const database = await startThrowawayServer();
  try {
    run(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
      env: { ...process.env, DATABASE_URL: database.url, ITCHKIT_SEED: 'no' },
      quiet: true,
      what: 'preparing the database',
    });
    const port = await freePort();
    const application = await startNext({ port, databaseUrl: database.url, stdio: 'ignore' });
    try {
      return await use(`http://127.0.0.1:${port}`);
    } finally {
      await application.stop();
    }
  } finally {
    await database.stop();
  }
}
