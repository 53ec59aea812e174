import type { Part, Role } from '../document';
import type { NamePattern, Rulebook } from './types';

/** A part's role: given by hand, or by what its name begins with. */
export function roleOf(rulebook: Rulebook, part: Pick<Part, 'name' | 'role'>): Role | null {
  if (part.role !== null) return part.role;
  const name = part.name.toLowerCase();
  return rulebook.naming.patterns.find((one) => one.role !== null && one.prefix !== '' && name.startsWith(one.prefix))?.role ?? null;
}

export function patternOf(rulebook: Rulebook, role: Role | null): NamePattern | undefined {
  return rulebook.naming.patterns.find((one) => one.role === role) ?? rulebook.naming.patterns.find((one) => one.role === null);
}

export function nameFits(rulebook: Rulebook, name: string, role: Role | null): boolean {
  const pattern = patternOf(rulebook, role);
  return name.length <= rulebook.naming.maxLength && (!pattern || new RegExp(pattern.pattern).test(name));
}

/**
 * The nearest name that fits: words in lower case joined by underscores, the role's prefix in front.
 * Null where even that does not fit the pattern.
 */
export function fittingName(rulebook: Rulebook, name: string, role: Role | null): string | null {
  const prefix = patternOf(rulebook, role)?.prefix ?? '';
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/([a-z0-9])([A-Z])/g, '$1_$2')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '');
  const body = prefix !== '' && words.startsWith(prefix) ? words.slice(prefix.length) : prefix !== '' && words === prefix.replace(/_$/, '') ? '' : words;
  const started = /^[a-z]/.test(prefix + body) ? body : `part_${body}`;
  const result = (prefix + started).slice(0, rulebook.naming.maxLength).replace(/_+$/, '');
  return nameFits(rulebook, result, role) ? result : null;
}
