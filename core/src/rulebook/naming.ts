import type { Part, Role } from '../document';
import { namePattern } from './name-pattern';
import type { NamingPattern, Rulebook, Sides } from './types';

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

/** The pattern for names of a role, or that for all others. */
export function patternOf(rulebook: Rulebook, role: Role | null): NamingPattern | undefined {
  return rulebook.naming.patterns.find((one) => one.role === role) ?? rulebook.naming.patterns.find((one) => one.role === null);
}

/** Whether a name is as the rulebook wants it for a role. */
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
  const words = shortened(lead !== '' && all[0] === lead ? all.slice(1) : all, rulebook.naming.maxLength - prefix.length - 'part_'.length);
  // First letters that are a word of their own are parted from what follows, where the pattern wants that.
  const signs = /[a-z0-9]$/i.test(prefix) ? ['', '-', '_'] : [''];
  for (const join of JOINED) {
    // A name that may not begin with a figure, or that is nothing but signs, gets a word in front.
    for (const body of [join(words), join(['part', ...words])])
      for (const sign of signs) {
        const result = (prefix + sign + body).replace(/[_-]+$/, '');
        if (result !== '' && nameFits(rulebook, result, role)) return result;
      }
  }
  return null;
}

/** Words that take no more than so many letters with a sign between any two: the longest give way, so that a number at the end stays. */
function shortened(words: string[], most: number): string[] {
  const out = [...words];
  for (let over = out.join('_').length - most; over > 0; over = out.join('_').length - most) {
    const at = out.reduce((longest, word, i) => (word.length > out[longest].length ? i : longest), 0);
    if (out[at].length > 1) out[at] = out[at].slice(0, Math.max(1, out[at].length - over));
    else if (out.length > 1) out.pop();
    else break;
  }
  return out;
}

/**
 * As `fittingName`, of names that nothing else has: its own where it fits and is free, otherwise with the least number that makes it so.
 * The number comes before the sign of a side. Null where none fits.
 *
 * @param taken Names of others in lower case: platforms that care for the case of letters are the fewer.
 */
export function freeFittingName(rulebook: Rulebook, name: string, role: Role | null, taken: ReadonlySet<string>): string | null {
  const own = nameFits(rulebook, name, role) ? name : fittingName(rulebook, name, role);
  if (own !== null && !taken.has(own.toLowerCase())) return own;
  for (let n = 2; n < 10_000; n++) {
    // What fits but for the number keeps its letters.
    const plain = own === null ? name : numbered(own, n, rulebook.naming.sides);
    const next = nameFits(rulebook, plain, role) ? plain : fittingName(rulebook, numbered(name, n, rulebook.naming.sides), role);
    if (next === null) return null;
    if (!taken.has(next.toLowerCase())) return next;
  }
  return null;
}

function numbered(name: string, n: number, sides: Sides | undefined): string {
  const sign =
    sides?.place === 'suffix' ? [sides.left, sides.right].find((one) => name.endsWith(one) && name.length > one.length) : undefined;
  const stem = sign === undefined ? name : name.slice(0, -sign.length);
  return `${stem}_${n}${sign ?? ''}`;
}
