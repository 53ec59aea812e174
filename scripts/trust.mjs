import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuild } from './lib/build.mjs';
import { ROOT } from './lib/paths.mjs';
import { main, Plain } from './lib/say.mjs';
import { setUp } from './lib/setup.mjs';

/** `npm run trust`: the probes of `e2e/trust/` in their long form. Half an hour on two cores. */
await main(async () => {
  await setUp();
  await ensureBuild();
  const { status } = spawnSync(
    process.execPath,
    [join(ROOT, 'node_modules/@playwright/test/cli.js'), 'test', '-c', 'e2e/playwright.config.ts', 'trust/', '--retries', '0'],
    { cwd: ROOT, stdio: 'inherit', env: { LOG_LEVEL: 'silent', ...process.env, ITCHKIT_TRUST: 'long' } },
  );
  if (status !== 0) throw new Plain('Something did not hold; what it said stands above.');
});
