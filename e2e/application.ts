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

/** A new database, with the demo kits on its shelf or empty: a copy of one that was prepared before all tests. */
async function newDatabase(seed: boolean): Promise<string> {
  const name = `itchkit_${process.pid}_${Date.now()}`;
  await create(name, seed ? SEEDED : EMPTY);
  return urlOf(name);
}

const [EMPTY, SEEDED] = ['itchkit_empty', 'itchkit_seeded'];
const urlOf = (name: string) => process.env.DATABASE_SERVER!.replace(/\/postgres$/, `/${name}`);

async function create(name: string, template: string | null): Promise<void> {
  const client = new Client(process.env.DATABASE_SERVER);
  await client.connect();
  await client.query(`create database ${name}${template === null ? '' : ` template ${template}`}`);
  await client.end();
}

/** Prepares what every test's database is a copy of. */
export async function prepareDatabases(): Promise<void> {
  for (const [name, template, seed] of [
    [EMPTY, null, 'no'],
    [SEEDED, EMPTY, 'yes'],
  ] as const) {
    await create(name, template);
    run(process.execPath, ['--import', 'tsx', join(ROOT, 'web/src/server/prepare.ts')], {
      env: { ...process.env, DATABASE_URL: urlOf(name), ITCHKIT_SEED: seed },
      quiet: true,
      what: 'preparing the database',
    });
  }
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
