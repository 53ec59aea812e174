import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createConnection } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { freePort } from '../application';
import { ROOT } from '../../scripts/lib/paths.mjs';
import { LONG, SEED, seeded } from './fault-proxy';

/** A start of the application with data of its own. */
interface Start {
  child: ChildProcess;
  said: () => string;
  ended: Promise<number | null>;
}

let folder = '';
let port = 0;
const starts: Start[] = [];

test.beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'itch-kit-start-'));
  // The database's user has to get in.
  chmodSync(folder, 0o755);
  port = await freePort();
});
test.afterEach(async () => {
  for (const { child } of starts.splice(0)) child.kill('SIGTERM');
  await expect
    .poll(leftOver, { timeout: 15_000 })
    .toEqual([])
    .catch(() => undefined);
  for (const pid of leftOver()) process.kill(pid, 'SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

/** @param command By npm as a person does, or the script itself. */
function start(command: 'npm' | 'node' = 'node'): Start {
  const [program, args] = command === 'npm' ? ['npm', ['run', 'demo']] : [process.execPath, ['scripts/demo.mjs']];
  const env = { ...process.env, PORT: String(port), ITCHKIT_DATA: folder, ITCHKIT_SEED: 'no', DATABASE_URL: undefined };
  const child = spawn(program, args, { cwd: ROOT, env, detached: true });
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (text += chunk));
  const one = { child, said: () => text, ended: new Promise<number | null>((resolve) => child.once('close', resolve)) };
  starts.push(one);
  return one;
}

const untilSaid = (one: Start, words: RegExp, timeout = 60_000) => expect.poll(one.said, { timeout }).toMatch(words);
const isUp = (one: Start) => untilSaid(one, /Itch Kit is at http/);

const textOf = (path: string) => {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
};

/** Processes that have to do with this test's folder or port: by their command line or their surroundings. */
function leftOver(): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => pid !== process.pid)
    .filter((pid) => {
      const [line, surroundings] = [textOf(`/proc/${pid}/cmdline`), textOf(`/proc/${pid}/environ`)];
      return line.includes(folder) || surroundings.includes(`ITCHKIT_DATA=${folder}`);
    });
}

const portAnswers = () =>
  new Promise<boolean>((resolve) => {
    const socket = createConnection(port, '127.0.0.1');
    socket.once('connect', () => (socket.destroy(), resolve(true)));
    socket.once('error', () => resolve(false));
  });

async function nothingIsLeft(): Promise<void> {
  await expect.poll(leftOver, { timeout: 40_000 }).toEqual([]);
  expect(await portAnswers()).toBe(false);
  expect(existsSync(join(folder, 'run.json'))).toBe(false);
}

test('a start is noted before anything runs, serves, and its files are its person’s alone; a second one says who has it and touches nothing', async () => {
  const first = start();
  await expect.poll(() => existsSync(join(folder, 'run.json')), { timeout: 10_000 }).toBe(true);
  await isUp(first);
  const { database } = JSON.parse(textOf(join(folder, 'run.json'))) as { database: number };
  for (const file of ['run.json', 'postgres.password', 'postgres.log']) expect(statSync(join(folder, file)).mode & 0o777, file).toBe(0o600);
  const second = start();
  expect(await second.ended).toBe(1);
  expect(second.said()).toMatch(
    new RegExp(`already runs from this folder, at http://127\\.0\\.0\\.1:${port} \\(process ${first.child.pid}\\)`),
  );
  expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);

  // The database is killed: it comes back, and what was there is.
  process.kill(database, 'SIGKILL');
  await untilSaid(first, /The database is back/);
  await expect.poll(async () => (await fetch(`http://127.0.0.1:${port}/api/health`)).status, { timeout: 20_000 }).toBe(200);

  // Twice, since people do.
  first.child.kill('SIGINT');
  first.child.kill('SIGINT');
  expect(await first.ended).toBe(0);
  await nothingIsLeft();
});

test('of two starts at once one runs, and the other says so', async () => {
  const two = [start(), start()];
  const codes = await Promise.race([Promise.all(two.map(isUp)).then(() => 'both'), Promise.race(two.map(({ ended }) => ended))]);
  expect(codes).toBe(1);
  const running = two.find(({ child }) => child.exitCode === null)!;
  await isUp(running);
  running.child.kill('SIGHUP');
  expect(await running.ended).toBe(0);
  await nothingIsLeft();
});

test('after everything was killed at once a start recovers what is there, and says that it does where it takes long', async () => {
  const first = start();
  await isUp(first);
  for (const pid of leftOver()) {
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // Its parent went first.
    }
  }
  await first.ended;
  const again = start();
  await isUp(again);
  expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
  again.child.kill('SIGTERM');
  expect(await again.ended).toBe(0);
  await nothingIsLeft();
});

test('an application that ends by itself ends the rest with a sentence', async () => {
  const one = start();
  await isUp(one);
  const { application } = JSON.parse(textOf(join(folder, 'run.json'))) as { application: number };
  process.kill(-application, 'SIGKILL');
  expect(await one.ended).toBe(1);
  expect(one.said()).toMatch(/The application ended by itself .*Its log is .*itchkit\.log/);
  await nothingIsLeft();
});

test('npm that is ended, or killed outright, leaves nothing running', async () => {
  for (const signal of ['SIGTERM', 'SIGKILL'] as const) {
    const one = start('npm');
    await isUp(one);
    one.child.kill(signal);
    await nothingIsLeft();
  }
});

test('broken off at any moment, by any signal, a start leaves no process and no taken port', async () => {
  const tries = LONG ? 25 : 4;
  test.setTimeout(tries * 60_000);
  const random = seeded(SEED);
  for (let i = 0; i < tries; i++) {
    const one = start();
    await new Promise((resolve) => setTimeout(resolve, random() * 6000));
    const signal = (['SIGINT', 'SIGTERM', 'SIGHUP'] as const)[Math.floor(random() * 3)];
    one.child.kill(signal);
    await one.ended;
    await nothingIsLeft();
  }
  // What was half-made is no hindrance.
  const last = start();
  await isUp(last);
});

test('a port that is somebody else’s is said, and nothing is started', async () => {
  const server = (await import('node:net')).createServer();
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  const one = start();
  expect(await one.ended).toBe(1);
  expect(one.said()).toMatch(/Port \d+ is taken by another program/);
  server.close();
  expect(readdirSync(folder)).not.toContain('postgres');
  expect(spawnSync('pgrep', ['-f', folder]).stdout.toString()).toBe('');
});
