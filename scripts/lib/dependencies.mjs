import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { runWatched } from './children.mjs';
import { Plain, say } from './say.mjs';

/** npm's packages as the lockfile has them: installed where missing, half-installed or of another lockfile. */
export async function ensureDependencies() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) throw new Plain(`Node ${process.versions.node} is too old; 20.19 or newer is needed.`);
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  // The mark is written last, so an install that was killed has none.
  const mark = join(ROOT, 'node_modules', '.itchkit-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  say('Installing npm packages …');
  await runWatched('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { what: 'npm ci' });
  writeFileSync(mark, lock);
}
