import { compareVersions } from 'compare-versions';
import type { Rulebook } from './types';

export { compareVersions };

/** The next version: the last number goes up. */
export function nextVersion(version: string): string {
  const [major, minor, patch] = version.split('.').map(Number);
  return `${major}.${minor}.${patch + 1}`;
}

/** One place where two rulebooks differ; null where the one has nothing there. */
export interface RulebookChange {
  /** Where, in words: “Rule triangles, limit”. */
  where: string;
  before: string | null;
  after: string | null;
}

const NAMED_LISTS: Record<string, string> = {
  rules: 'Rule',
  variables: 'Variable',
  sizeClasses: 'Size class',
  skeleton: 'Joint',
  packaging: 'Output',
};

/** Everything in which two versions of a rulebook differ. Lists of named things are compared by name. */
export function compareRulebooks(before: Rulebook, after: Rulebook): RulebookChange[] {
  const changes: RulebookChange[] = [];
  compare(before, after, '', changes);
  return changes;
}

const nameOf = (value: unknown): string | null => {
  if (typeof value !== 'object' || value === null) return null;
  const { id, name, path, role, pattern } = value as Record<string, unknown>;
  const found = id ?? name ?? path ?? (role === undefined ? undefined : (role ?? 'other parts')) ?? pattern;
  return typeof found === 'string' ? found : null;
};

function compare(before: unknown, after: unknown, where: string, changes: RulebookChange[]): void {
  if (JSON.stringify(before) === JSON.stringify(after)) return;
  if (Array.isArray(before) && Array.isArray(after) && [...before, ...after].every((one) => nameOf(one) !== null)) {
    const title = NAMED_LISTS[where] ?? where;
    for (const name of new Set([...before, ...after].map((one) => nameOf(one)!))) {
      const find = (list: unknown[]) => list.find((one) => nameOf(one) === name);
      compare(find(before), find(after), `${title} ${name}`, changes);
    }
    return;
  }
  if (isRecord(before) && isRecord(after)) {
    for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
      if (where === '' && (key === 'version' || key === 'format')) continue;
      compare(before[key], after[key], where === '' ? key : `${where}, ${key}`, changes);
    }
    return;
  }
  changes.push({ where, before: say(before), after: say(after) });
}

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value);

function say(value: unknown): string | null {
  if (value === undefined) return null;
  if (isRecord(value))
    return typeof value.why === 'string'
      ? value.why
      : Object.values(value)
          .filter((one) => typeof one !== 'object')
          .join(', ');
  return Array.isArray(value) ? value.map((one) => nameOf(one) ?? String(one)).join(', ') : String(value);
}
