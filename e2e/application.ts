import { test } from '@playwright/test';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Client } from 'pg';
// The start command's own modules, plain JavaScript.
import { startNext } from '../scripts/lib/next-server.mjs';
import { ROOT } from '../scripts/lib/paths.mjs';
import { run } from '../scripts/lib/run.mjs';

export interface Running {
  url: string;
  /** Ends it as a crash would. */
  kill: () => Promise<void>;
  stop: () => Promise<void>;
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/** The production build on a port of its own. */
export async function startApplication(databaseUrl: string, port: number): Promise<Running> {
  const { child, stop } = await startNext({ port, databaseUrl, stdio: process.env.DEBUG ? 'inherit' : 'ignore' });
  const kill = () =>
    new Promise<void>((resolve) => {
      child.once('exit', () => resolve());
      process.kill(-child.pid!, 'SIGKILL');
    });
  return { url: `http://127.0.0.1:${port}`, kill, stop };
}

/** A new database, migrated, with the demo kits on its shelf or empty. */
async function newDatabase(seed: boolean): Promise<string> {
  const name = `itchkit_${process.pid}_${Date.now()}`;
  const client = new Client(process.env.DATABASE_SERVER);
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  const url = process.env.DATABASE_SERVER!.replace(/\/postgres$/, `/${name}`);
  run(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
    env: { ...process.env, DATABASE_URL: url, ITCHKIT_SEED: seed ? 'yes' : 'no' },
    quiet: true,
    what: 'preparing the database',
  });
  return url;
}

/** An application of their own for the tests of a file; its address is `base()`. */
export function useApplication({ seed }: { seed: boolean }): { database: () => string } {
  let running: Running;
  let database = '';
  test.beforeAll(async () => {
    database = await newDatabase(seed);
    running = await startApplication(database, await freePort());
    process.env.BASE_URL = running.url;
  });
  test.afterAll(() => running?.stop());
  return { database: () => database };
}
