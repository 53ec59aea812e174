import { readFileSync } from 'node:fs';
import { NEWEST, OLDER } from '@itchkit/rulebooks';
import { KitError } from '@itchkit/core/document';
import { checkRulebook, type Rulebook } from '@itchkit/core/rulebook';
import type { Opened } from './files';

export class TargetError extends KitError {}

/** The rulebooks that ship with Itch Kit. */
export const rulebooks = (): Rulebook[] => NEWEST.map(checkRulebook);

/**
 * The rulebook that a kit is to be held against: in the version that it is pinned to, where it is prepared for that platform; otherwise the
 * newest. Those that came with the kit count too.
 *
 * @throws {KitError} where there is none
 */
export function targetFor(name: string, { kit, rulebooks: own }: Opened): Rulebook {
  const pinned = kit.targets.find(({ rulebook }) => rulebook === name);
  const known = [...NEWEST, ...OLDER].map(checkRulebook).concat(own);
  const found = pinned && known.find(({ id, version }) => id === pinned.rulebook && version === pinned.version);
  return found ?? own.find(({ id }) => id === name) ?? targetOf(name);
}

/** The rulebook of the one platform that a kit is prepared for. @throws {TargetError} where it is prepared for none, or for several */
export function ownTarget(opened: Opened): Rulebook {
  const { targets } = opened.kit;
  if (targets.length === 1) return targetFor(targets[0].rulebook, opened);
  const names = targets.map(({ rulebook }) => rulebook).join(', ');
  throw new TargetError(
    'no-target',
    targets.length === 0
      ? 'The file says no platform that it is for. Say which with --target.'
      : `The kit is prepared for ${names}. Say which with --target.`,
    'target',
  );
}

/** The rulebook that a package names, of those that ship: in its version where that is known. @throws {TargetError} */
export function shippedTarget(id: string, version: string): Rulebook {
  const known = [...NEWEST, ...OLDER].filter((one) => one.id === id);
  if (known.length === 0) throw new TargetError('no-target', `The package is for “${id}”, of which there is no rulebook here.`, id);
  return checkRulebook(known.find((one) => one.version === version) ?? known[0]);
}

/** A rulebook by its id, or out of a JSON file. @throws {KitError} where there is none, or it does not hold together */
export function targetOf(name: string): Rulebook {
  const known = NEWEST.find((rulebook) => rulebook.id === name);
  if (known) return checkRulebook(known);
  let text: string;
  try {
    text = readFileSync(name, 'utf8');
  } catch {
    throw new TargetError(
      'no-target',
      `There is no rulebook and no file “${name}”. The rulebooks are: ${NEWEST.map((rulebook) => rulebook.id).join(', ')}.`,
      name,
    );
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new TargetError('json', `“${name}” is not JSON, so it is no rulebook. Export the rulebook again.`, name);
  }
  return checkRulebook(value);
}
