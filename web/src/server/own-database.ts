import { Client } from 'pg';

/**
 * For tests that change what others look at too: a database of their own on the tests' server, for the file that asks. Call it before
 * anything is asked of `database()`. Gives what throws it away.
 */
export async function ownDatabase(name: string): Promise<() => Promise<void>> {
  const server = process.env.DATABASE_URL!;
  const own = `${name}_${process.pid}_${Date.now()}`;
  const query = async (text: string) => {
    const client = new Client(server);
    await client.connect();
    await client.query(text);
    await client.end();
  };
  await query(`create database ${own}`);
  process.env.DATABASE_URL = server.replace(/\/[^/]*$/, `/${own}`);
  return async () => {
    process.env.DATABASE_URL = server;
    await query(`drop database ${own}`);
  };
}
