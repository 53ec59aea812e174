#!/usr/bin/env node
// Bundles the command line where its sources are newer than the bundle, and runs it with V8's own code cache, so that it starts at once.
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { constants, Script } from 'node:vm';

const here = dirname(fileURLToPath(import.meta.url));

function runCached(bundle) {
  const cache = `${bundle}.${process.versions.v8}.cache`;
  const source = `(function (exports, require, module) {${readFileSync(bundle, 'utf8')}\n})`;
  const cachedData = existsSync(cache) ? readFileSync(cache) : undefined;
  const script = new Script(source, { filename: bundle, cachedData, importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER });
  const module = { exports: {} };
  script.runInThisContext()(module.exports, createRequire(bundle), module);
  if (cachedData && !script.cachedDataRejected) return;
  // Written when all that a run needs has been compiled.
  process.once('exit', () => {
    try {
      writeFileSync(cache, script.createCachedData());
    } catch {
      // A folder that may not be written to: the next start is as slow as this one.
    }
  });
}

try {
  const { isFresh, bundleCli, CLI_BUNDLE } = await import(join(here, '../scripts/lib/bundle.mjs'));
  if (!isFresh(CLI_BUNDLE)) {
    rmSync(dirname(CLI_BUNDLE), { recursive: true, force: true });
    await bundleCli();
  }
  runCached(CLI_BUNDLE);
} catch (error) {
  if (error?.code !== 'ERR_MODULE_NOT_FOUND' || existsSync(join(here, '../node_modules/esbuild'))) throw error;
  process.stderr.write('Itch Kit is not set up in this folder yet. Run “npm run setup” in it first.\n');
  process.exitCode = 2;
}
