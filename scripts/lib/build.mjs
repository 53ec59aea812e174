import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { runWatched } from './children.mjs';
import { bundleCli, CLI_BUNDLE, ensureReadWorker, isFresh } from './bundle.mjs';
import { endLeftBuilds } from './left-builds.mjs';
import { ROOT, WEB } from './paths.mjs';
import { sleep } from './run.mjs';
import { say } from './say.mjs';

const SOURCES = [
  'core/src',
  'core/package.json',
  'rulebooks',
  'web/src',
  'web/next.config.ts',
  'web/package.json',
  'web/tsconfig.json',
  'tsconfig.base.json',
  'package-lock.json',
];

function* filesOf(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) yield path;
  else for (const name of readdirSync(path).sort()) if (name !== 'node_modules') yield* filesOf(join(path, name));
}

function sourceHash() {
  const hash = createHash('sha256');
  for (const source of SOURCES) {
    for (const file of filesOf(join(ROOT, source))) {
      if (/\.test\.tsx?$/.test(file)) continue;
      hash.update(relative(ROOT, file)).update('\0').update(readFileSync(file));
    }
  }
  return hash.digest('hex');
}

/** The production build, made anew where sources changed or a build was broken off. */
export async function ensureBuild() {
  await ensureReadWorker();
  if (!isFresh(CLI_BUNDLE)) await bundleCli();
  const hash = sourceHash();
  const mark = join(WEB, '.next', 'ITCHKIT_SOURCES');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === hash) return;
  say('Building the application …');
  if (endLeftBuilds() > 0) await sleep(500);
  rmSync(mark, { force: true });
  await runWatched(process.execPath, [join(ROOT, 'node_modules/next/dist/bin/next'), 'build', WEB], {
    what: 'next build',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  writeFileSync(mark, hash);
}
