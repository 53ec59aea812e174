import { ensureReadWorker, READ_WORKER } from './lib/bundle.mjs';
import { startThrowawayServer } from './lib/postgres.mjs';

/** A real database server for the server's tests, thrown away afterwards. */
export default async function setUpDatabase() {
  const server = await startThrowawayServer();
  globalThis.itchKitTestServer = server;
  process.env.DATABASE_URL = server.url;
  await ensureReadWorker();
  process.env.ITCHKIT_READ_WORKER = READ_WORKER;
}
