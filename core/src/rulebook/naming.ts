import type { Part, Role } from '../document';
import { namePattern } from './name-pattern';
import type { NamingPattern, Rulebook } from './types';

const MOST_NAMES = 50_000;
const roles = new WeakMap<Rulebook, Map<string, Role | null>>();

/** A part's role: given by hand, or by what its name begins with; worked out once for every name. */
export function roleOf(rulebook: Rulebook, part: Pick<Part, 'name' | 'role'>): Role | null {
  if (part.role !== null) return part.role;
  let known = roles.get(rulebook);
  if (!known || known.size > MOST_NAMES) roles.set(rulebook, (known = new Map()));
  const { name } = part;
  let role = known.get(name);
  if (role === undefined) known.set(name, (role = roleByName(rulebook, name)));
  return role;
}

function roleByName(rulebook: Rulebook, name: string): Role | null {
  const lower = name.toLowerCase();
  return (
    rulebook.naming.patterns.find((one) => one.role !== null && one.prefix !== '' && lower.startsWith(one.prefix.toLowerCase()))?.role ??
    null
  );
}

export function patternOf(rulebook: Rulebook, role: Role | null): NamingPattern | undefined {
  return rulebook.naming.patterns.find((one) => one.role === role) ?? rulebook.naming.patterns.find((one) => one.role === null);
}

export function nameFits(rulebook: Rulebook, name: string, role: Role | null): boolean {
  const pattern = patternOf(rulebook, role);
  return name.length <= rulebook.naming.maxLength && (!pattern || namePattern(pattern.pattern).test(name));
}

/** Ways of joining words, in the order in which they are tried. */
const JOINED: ((words: string[]) => string)[] = [
  (words) => words.join('_'),
  (words) => words.join('-'),
  (words) => words.map((word) => word[0].toUpperCase() + word.slice(1)).join(''),
  (words) => words.map((word, i) => (i === 0 ? word : word[0].toUpperCase() + word.slice(1))).join(''),
  (words) => words.join(''),
];

/**
 * The nearest name that fits: its words in lower case joined as the pattern takes them, the role's first letters in front.
 * Null where none of that fits the pattern.
 */
export function fittingName(rulebook: Rulebook, name: string, role: Role | null): string | null {
  const prefix = patternOf(rulebook, role)?.prefix ?? '';
  const lead = prefix.toLowerCase().replace(/[^a-z0-9]+$/, '');
  const all = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/([a-z0-9])([A-Z])/g, '$1_$2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '');
  const words = lead !== '' && all[0] === lead ? all.slice(1) : all;
  for (const join of JOINED) {
    // A name that may not begin with a figure, or that is nothing but signs, gets a word in front.
    for (const body of [join(words), join(['part', ...words])]) {
      const result = (prefix + body).slice(0, rulebook.naming.maxLength).replace(/[_-]+$/, '');
      if (result !== '' && nameFits(rulebook, result, role)) return result;
    }
  }
  return null;
}
