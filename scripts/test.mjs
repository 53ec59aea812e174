import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild } from './lib/build.mjs';
import { installPackages } from './lib/debian.mjs';
import { ROOT } from './lib/paths.mjs';
import { main, Plain, say } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

const bin = (path) => join(ROOT, 'node_modules', path);
const STEPS = [
  ['types of core', [bin('typescript/bin/tsc'), '-p', 'core']],
  ['types of cli', [bin('typescript/bin/tsc'), '-p', 'cli']],
  ['types of demo', [bin('typescript/bin/tsc'), '-p', 'demo']],
  ['types of web', [bin('typescript/bin/tsc'), '-p', 'web']],
  ['types of e2e', [bin('typescript/bin/tsc'), '-p', 'e2e']],
  ['types of bench', [bin('typescript/bin/tsc'), '-p', 'bench']],
  ['ESLint', [bin('eslint/bin/eslint.js'), '.', '--max-warnings', '0']],
  ['dependency rules', [bin('dependency-cruiser/bin/dependency-cruise.mjs'), '--config', '.dependency-cruiser.cjs', 'core/src', 'cli/src', 'web/src', 'demo/src']],
  ['Jest', [bin('jest/bin/jest.js')]],
  ['the production build', null],
  ['Playwright', [bin('@playwright/test/cli.js'), 'test', '-c', 'e2e/playwright.config.ts']],
];

await main(async () => {
  setUp();
  if (!process.env.CHROMIUM && !existsSync('/usr/bin/chromium')) installPackages(['chromium'], 'the Chromium browser');
  for (const [what, args] of STEPS) {
    say(`\n— ${what}`);
    if (args === null) await ensureBuild();
    else {
      const { status, error } = spawnSync(process.execPath, args, { cwd: ROOT, stdio: 'inherit', env: { LOG_LEVEL: 'silent', ...process.env, NEXT_TELEMETRY_DISABLED: '1' } });
      if (error || status !== 0) throw new Plain(`${what} failed; what it said stands above.`);
    }
  }
});
