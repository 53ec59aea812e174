import { NEWEST, OLDER } from '@itchkit/rulebooks';
import type { Kit } from '@itchkit/core/document';
import { checkRulebook, compareVersions, type Rulebook } from '@itchkit/core/rulebook';

/** The rulebooks that ship with the application, older versions too: kits may be pinned to them. */
const SHIPPED: Rulebook[] = [...NEWEST, ...OLDER].map(checkRulebook);
const SHIPPED_IDS = new Set(SHIPPED.map((rulebook) => rulebook.id));

const known = new Map<string, Rulebook>(SHIPPED.map((rulebook) => [keyOf(rulebook.id, rulebook.version), rulebook]));

function keyOf(id: string, version: string): string {
  return `${id}@${version}`;
}

export function isShipped(id: string): boolean {
  return SHIPPED_IDS.has(id);
}

/** Makes people's own rulebooks known here, in place of all that were known before. */
export function learnRulebooks(own: readonly Rulebook[]): void {
  for (const [key, rulebook] of known) if (!isShipped(rulebook.id)) known.delete(key);
  for (const rulebook of own) if (!isShipped(rulebook.id)) known.set(keyOf(rulebook.id, rulebook.version), rulebook);
}

/** The rulebook that a kit is pinned to; undefined where it is not here. */
export function rulebookOf(target: Kit['targets'][number] | undefined): Rulebook | undefined {
  return target && known.get(keyOf(target.rulebook, target.version));
}

/** Versions of a rulebook, the newest first. */
export function versionsOf(id: string): Rulebook[] {
  return [...known.values()].filter((rulebook) => rulebook.id === id).sort((a, b) => compareVersions(b.version, a.version));
}

export function newestOf(id: string): Rulebook | undefined {
  return versionsOf(id)[0];
}

/** The newest version of every rulebook: those that ship in their own order, then people's by title. */
export function allRulebooks(): Rulebook[] {
  const ids = [...new Set([...known.values()].map((rulebook) => rulebook.id))];
  const newest = ids.map((id) => newestOf(id)!);
  const own = newest.filter((rulebook) => !isShipped(rulebook.id)).sort((a, b) => a.title.localeCompare(b.title));
  return [...newest.filter((rulebook) => isShipped(rulebook.id)), ...own];
}
