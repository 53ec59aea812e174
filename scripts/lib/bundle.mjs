import { existsSync, mkdirSync, readdirSync, renameSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT, WEB } from './paths.mjs';

/** The command line's front, which loads nothing of core, so that it starts at once; and what does its jobs in a thread. */
export const CLI_BUNDLE = join(ROOT, 'cli/dist/itchkit.cjs');
const CLI_JOBS = join(ROOT, 'cli/dist/jobs.cjs');
/** What reads files and packages kits in processes of their own beside the web process. */
export const READ_WORKER = join(WEB, '.worker/helper.mjs');

const SOURCES = ['core/src', 'core/node', 'cli/src', 'web/src/server', 'rulebooks', 'package-lock.json'];

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return readdirSync(path).reduce(
    (most, name) => (name === 'node_modules' ? most : Math.max(most, newest(join(path, name)))),
    stat.mtimeMs,
  );
}

/** Whether a bundle is there and no source is newer. */
export function isFresh(bundle) {
  if (!existsSync(bundle)) return false;
  const made = statSync(bundle).mtimeMs;
  return SOURCES.every((source) => newest(join(ROOT, source)) < made);
}

async function bundle(entry, outfile, format) {
  const { build } = await import('esbuild');
  mkdirSync(dirname(outfile), { recursive: true });
  // Written beside and moved there, so that a start that is killed leaves no half of it.
  const half = `${outfile}.${process.pid}`;
  await build({
    entryPoints: [join(ROOT, entry)],
    outfile: half,
    bundle: true,
    platform: 'node',
    format,
    target: 'node20',
    minifyWhitespace: true,
    minifySyntax: true,
    legalComments: 'none',
    logLevel: 'warning',
    // It loads a file beside itself.
    external: ['draco3d'],
    banner:
      format === 'esm'
        ? { js: "import { createRequire as itchkitRequire } from 'node:module'; const require = itchkitRequire(import.meta.url);" }
        : {},
  });
  renameSync(half, outfile);
}

export async function bundleCli() {
  // The front last: it is what tells whether both are fresh.
  await bundle('cli/src/jobs.ts', CLI_JOBS, 'cjs');
  await bundle('cli/src/main.ts', CLI_BUNDLE, 'cjs');
}

export async function ensureReadWorker() {
  if (!isFresh(READ_WORKER)) await bundle('web/src/server/helper.ts', READ_WORKER, 'esm');
}
