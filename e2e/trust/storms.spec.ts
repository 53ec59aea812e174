import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { ROOT } from '../../scripts/lib/paths.mjs';
import { LONG } from './fault-proxy';

/** Programs of their own, since they bring servers of their own and kill them. Each prints what it did and ends with 0 where all held. */
const STORMS: [program: string, what: string][] = [
  ['save-storm.ts', 'saves with lost, repeated, cut and late answers, and page, server and database killed: each is there, once'],
  ['reader-storm.ts', 'files with bytes, numbers and lengths changed are read or refused in a sentence, by a reader that goes on'],
];

for (const [program, what] of STORMS)
  test(what, async () => {
    test.setTimeout(LONG ? 3_600_000 : 300_000);
    const child = spawn(process.execPath, ['--import', 'tsx', join(ROOT, 'e2e/trust', program)], { cwd: ROOT });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
    const code = await new Promise((resolve) => child.on('close', resolve));
    if (LONG) process.stdout.write(said);
    expect(code, said).toBe(0);
  });
