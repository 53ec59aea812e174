import { spawnSync } from 'node:child_process';
import { ROOT } from './paths.mjs';
import { Plain } from './say.mjs';

/** Runs a program to its end with its output shown. Throws a sentence where it fails. */
export function run(command, args, { cwd = ROOT, env = process.env, what = `${command} ${args.join(' ')}`, quiet = false } = {}) {
  const result = spawnSync(command, args, { cwd, env, stdio: quiet ? 'pipe' : 'inherit', encoding: 'utf8' });
  if (result.error) throw new Plain(`“${what}” could not be started: ${result.error.message}.`);
  if (result.status !== 0)
    throw new Plain(`“${what}” failed${quiet ? `:\n${(result.stderr || result.stdout).trim()}` : `; what it said stands above`}.`);
  return result.stdout;
}

export function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

export function sleep(milliseconds) {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
