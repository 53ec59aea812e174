import { prepareDatabases } from './application';
import { startThrowawayServer } from '../scripts/lib/postgres.mjs';

/**
 * A throwaway database server; each file of tests has a database and an application of its own on it, copied from one that is prepared
 * here.
 */
export default async function globalSetup() {
  const server = await startThrowawayServer();
  process.env.DATABASE_SERVER = server.url;
  await prepareDatabases();
  return () => server.stop();
}
