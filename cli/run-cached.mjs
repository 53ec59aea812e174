// Runs a bundle with V8's own code cache, so that it starts at once.
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { constants, Script } from 'node:vm';

export function runCached(bundle) {
  const cache = `${bundle}.${process.versions.v8}.cache`;
  const source = `(function (exports, require, module, __dirname) {${readFileSync(bundle, 'utf8')}\n})`;
  const cachedData = existsSync(cache) ? readFileSync(cache) : undefined;
  const script = new Script(source, { filename: bundle, cachedData, importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER });
  const module = { exports: {} };
  script.runInThisContext()(module.exports, createRequire(bundle), module, dirname(bundle));
  if (cachedData && !script.cachedDataRejected) return () => undefined;
  // To be called when all that a run needs has been compiled.
  return () => {
    try {
      writeFileSync(`${cache}.${process.pid}`, script.createCachedData());
      renameSync(`${cache}.${process.pid}`, cache);
    } catch {
      // A folder that may not be written to: the next start is as slow as this one.
    }
  };
}
