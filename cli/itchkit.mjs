#!/usr/bin/env node
// Bundles the command line where its sources are newer than the bundles, and runs it.
import { existsSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const here = dirname(fileURLToPath(import.meta.url));

try {
  const { isFresh, bundleCli, CLI_BUNDLE } = await import(join(here, '../scripts/lib/bundle.mjs'));
  if (!isFresh(CLI_BUNDLE)) {
    rmSync(dirname(CLI_BUNDLE), { recursive: true, force: true });
    await bundleCli();
  }
  createRequire(import.meta.url)(CLI_BUNDLE);
} catch (error) {
  if (error?.code !== 'ERR_MODULE_NOT_FOUND' || existsSync(join(here, '../node_modules/esbuild'))) throw error;
  process.stderr.write('Itch Kit is not set up in this folder yet. Run “npm run setup” in it first.\n');
  process.exitCode = 2;
}
