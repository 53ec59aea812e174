import { ensureDependencies } from './dependencies.mjs';
import { postgresPrograms } from './postgres.mjs';

/** What both start commands and the tests need on a fresh machine: npm's packages and a database server. */
export async function setUp({ database = true } = {}) {
  await ensureDependencies();
  if (database) postgresPrograms();
}
