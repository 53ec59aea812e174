import { spawn, spawnSync } from 'node:child_process';
import { Buffer } from 'node:buffer';
import { existsSync, readdirSync } from 'node:fs';
import { setPriority } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { installPackages } from './lib/debian.mjs';
import { ROOT } from './lib/paths.mjs';
import { main, Plain, say } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

const bin = (path) => join(ROOT, 'node_modules', path);
/** The native compiler: six times as fast as the one that ESLint and the build need. */
const TSC = bin('tsc7/bin/tsc');
const WEB_TYPES = ['types of web', [TSC, '-p', 'web']];
const STEPS = [
  // What shares its sources is read once: core with what stands on it, then what drives the whole.
  ['types of core, the command line and the demo', [TSC, '-p', 'tsconfig.headless.json']],
  ['types of the interface’s tests, benchmarks and scripts', [TSC, '-p', 'tsconfig.tools.json']],
  ['ESLint', [bin('eslint/bin/eslint.js'), '.', '--max-warnings', '0']],
  ['dead exports and files', [bin('knip/bin/knip.js'), '--include', 'files,exports,types,duplicates']],
  [
    'dependency rules',
    [
      bin('dependency-cruiser/bin/dependency-cruise.mjs'),
      '--config',
      '.dependency-cruiser.cjs',
      'core/src',
      'cli/src',
      'web/src',
      'demo/src',
    ],
  ],
];
const JEST = ['Jest', [bin('jest/bin/jest.js')]];
/** Tests of the interface in two lots that take about as long; of a file every test is in the same. */
const LOTS = (() => {
  const files = ['tests', 'trust'].flatMap((folder) => readdirSync(join(ROOT, 'e2e', folder)).map((name) => `${folder}/${name}`));
  const specs = files.filter((name) => name.endsWith('.spec.ts'));
  const first = specs.filter((name) => name.startsWith('tests/1'));
  return [first, specs.filter((name) => !first.includes(name))];
})();
const playwright = (lot) => [
  `Playwright, lot ${lot + 1} of ${LOTS.length}`,
  // Each keeps what it saw of failures to itself.
  [bin('@playwright/test/cli.js'), 'test', '-c', 'e2e/playwright.config.ts', '--output', `test-results/lot-${lot + 1}`, ...LOTS[lot]],
];
/** How far unit tests stand back, as `nice` counts: pages come first, which people would wait for. */
const BEHIND = 10;

const env = { LOG_LEVEL: 'silent', ...process.env, NEXT_TELEMETRY_DISABLED: '1' };

function step([what, args]) {
  say(`\n— ${what}`);
  const { status, error } = spawnSync(process.execPath, args, { cwd: ROOT, stdio: 'inherit', env });
  if (error || status !== 0) throw new Plain(`${what} failed; what it said stands above.`);
}

/**
 * A step beside others: what it says is told when it has ended.
 *
 * @param nice How far it stands back, with all that it starts
 */
function beside([what, args], nice = 0) {
  const child = spawn(process.execPath, args, { cwd: ROOT, env });
  if (nice > 0 && child.pid !== undefined) setPriority(child.pid, nice);
  const told = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => told.push(chunk));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => {
      say(`\n— ${what}`);
      process.stdout.write(Buffer.concat(told));
      if (status === 0) resolve();
      else reject(new Plain(`${what} failed; what it said stands above.`));
    });
  });
}

/** A step beside others that tells what it does as it goes. */
function aloud([what, args]) {
  say(`\n— ${what}`);
  const child = spawn(process.execPath, args, { cwd: ROOT, stdio: 'inherit', env });
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => (status === 0 ? resolve() : reject(new Plain(`${what} failed; what it said stands above.`))));
  });
}

/** Waits for steps side by side, all of them; the first that failed is thrown. */
async function sideBySide(...steps) {
  const results = await Promise.allSettled(steps);
  const failed = results.find((result) => result.status === 'rejected');
  if (failed) throw failed.reason;
}

/** Types, rules and lint one after the other, as far as they hold. */
async function checkAll() {
  for (const check of STEPS) await beside(check);
}

await main(async () => {
  await setUp();
  if (!process.env.CHROMIUM && !existsSync('/usr/bin/chromium')) installPackages(['chromium'], 'the Chromium browser');
  const build = [
    'the production build',
    ['-e', `import(${JSON.stringify(pathToFileURL(join(ROOT, 'scripts/lib/build.mjs')).href)}).then((build) => build.ensureBuild())`],
  ];
  // The build writes types of its own, which those of web are checked with: they come first.
  step(WEB_TYPES);
  const built = beside(build);
  const checks = checkAll();
  // A failure of theirs is told where all are waited for.
  checks.catch(() => undefined);
  await built;
  // Pages wait much of their time: rules, and unit tests after them, take what is left of the machine meanwhile. The second lot of pages
  // takes the place of whichever has ended.
  const first = aloud(playwright(0));
  const units = checks.then(() => beside(JEST, BEHIND));
  const second = Promise.race([first, units])
    .catch(() => undefined)
    .then(() => aloud(playwright(1)));
  await sideBySide(first, units, second);
});
