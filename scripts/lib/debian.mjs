import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { say, Plain } from './say.mjs';

/** Installs Debian packages where this user may; otherwise says what to install. */
export function installPackages(packages, purpose) {
  const list = packages.join(' ');
  const root = process.getuid?.() === 0;
  const sudo = !root && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  if (!existsSync('/usr/bin/apt-get') || !(root || sudo))
    throw new Plain(`${purpose} is not installed, and this user may not install it. Ask for: apt-get install ${list}`);
  say(`Installing ${purpose} (${list}) …`);
  const prefix = root ? [] : ['sudo', '-n'];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  for (const args of [
    ['apt-get', 'update', '-qq'],
    ['apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...packages],
  ]) {
    const [command, ...rest] = [...prefix, ...args];
    const result = spawnSync(command, rest, { env, encoding: 'utf8' });
    if (result.status !== 0)
      throw new Plain(
        `${purpose} could not be installed (${args.join(' ')}):\n${(result.stderr || '').trim().split('\n').slice(-3).join('\n')}`,
      );
  }
}
