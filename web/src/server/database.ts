import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema> & { $client: Pool };

const held = globalThis as unknown as { itchKitDatabase?: Database };

export function openDatabase(url: string): Database {
  const pool = new Pool({ connectionString: url, max: 10 });
  // An idle connection that the server drops (a restart) is no reason to end; the next query opens another.
  pool.on('error', () => undefined);
  return drizzle(pool, { schema });
}

/** The process's own database, by DATABASE_URL. */
export function database(): Database {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; start with “npm run demo”.');
  return (held.itchKitDatabase ??= openDatabase(url));
}
