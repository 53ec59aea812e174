import { partOf, type Id, type Kit } from '../document';
import { roleOf } from './naming';
import { sidedName } from './sides';
import type { Rulebook, Sides } from './types';

/** What is done to letters in names. */
export const LETTERS = ['keep', 'lower', 'upper', 'capitals'] as const;
/** `capitals`: every word begins with one. */
export type Letters = (typeof LETTERS)[number];

/** How many names are made of the old ones; each step works on what the one before it made. */
export interface RenameRecipe {
  /** Plain text; every place of it is replaced. */
  find: string;
  replace: string;
  /** The whole name anew, with `{name}`, `{role}`, `{parent}`, `{n}`, `{nn}`, `{nnn}`; empty: the name stays. */
  pattern: string;
  letters: Letters;
  /** What words are joined by; null: as they are. */
  join: '_' | '-' | '' | null;
  prefix: string;
  suffix: string;
  /** The first number of `{n}`. */
  from: number;
}

/** A recipe that changes no name. */
export const NO_RENAME: RenameRecipe = { find: '', replace: '', pattern: '', letters: 'keep', join: null, prefix: '', suffix: '', from: 1 };

export interface PlannedName {
  id: Id;
  before: string;
  after: string;
  /** Another part would have the same name, whatever the case of its letters; or the name would be empty. */
  clash: boolean;
}

const WORDS = /[_.\-\s]+|(?<=[a-z0-9])(?=[A-Z])/;

/**
 * What many names would become, in the order given. Nothing is changed.
 *
 * @param sideOf Where given, the side of a part: its name says so in the platform's way.
 * @throws {PartMissingError}
 */
export function renamePlan(
  kit: Kit,
  ids: readonly Id[],
  recipe: RenameRecipe,
  rulebook?: Rulebook,
  sideOf?: ReadonlyMap<Id, 'left' | 'right'>,
): PlannedName[] {
  const plan = ids.map((id, i) => {
    const part = partOf(kit, id);
    let name = recipe.find === '' ? part.name : part.name.replaceAll(recipe.find, () => recipe.replace);
    if (recipe.pattern !== '') {
      const n = recipe.from + i;
      const parent = part.parent === null ? '' : kit.parts[part.parent].name;
      const role = (rulebook ? roleOf(rulebook, part) : part.role) ?? 'part';
      const values: Record<string, string> = {
        name,
        role,
        parent,
        n: String(n),
        nn: String(n).padStart(2, '0'),
        nnn: String(n).padStart(3, '0'),
      };
      name = recipe.pattern.replace(/\{(name|role|parent|n{1,3})\}/g, (_, key: string) => values[key]);
    }
    name = recipe.prefix + inLetters(name, recipe.letters, recipe.join) + recipe.suffix;
    const side = sideOf?.get(id);
    if (side && rulebook?.naming.sides) name = withSide(name, side, rulebook.naming.sides);
    return { id, before: part.name, after: name.trim() };
  });
  const chosen = new Set(ids);
  const taken = new Map<string, number>();
  const add = (name: string) => taken.set(name.toLowerCase(), (taken.get(name.toLowerCase()) ?? 0) + 1);
  for (const part of Object.values(kit.parts)) if (!chosen.has(part.id)) add(part.name);
  for (const { after } of plan) add(after);
  return plan.map((one) => ({ ...one, clash: one.after === '' || taken.get(one.after.toLowerCase())! > 1 }));
}

function inLetters(name: string, letters: Letters, join: RenameRecipe['join']): string {
  if (letters === 'keep' && join === null) return name;
  const signs = name.match(/[_.\-\s]+/g) ?? [];
  const words = name.split(WORDS).filter((word) => word !== '');
  const cased = words.map((word) => {
    if (letters === 'lower') return word.toLowerCase();
    if (letters === 'upper') return word.toUpperCase();
    return letters === 'capitals' ? word[0].toUpperCase() + word.slice(1).toLowerCase() : word;
  });
  return cased.join(join ?? signs[0] ?? '');
}

/** A name with a side's sign: in place of the one that it has, or at the sides' own end. */
function withSide(name: string, side: 'left' | 'right', sides: Sides): string {
  const other = side === 'left' ? sides.right : sides.left;
  const own = side === 'left' ? sides.left : sides.right;
  const told = sidedName(name, sides);
  const ends = (sign: string) => (sides.place === 'prefix' ? told.startsWith(sign) : told.endsWith(sign)) && told.length > sign.length;
  if (ends(own)) return told;
  const before = sides.place === 'prefix';
  const without = before ? told.slice(other.length) : told.slice(0, -other.length);
  const bare = ends(other) ? without : told;
  return before ? own + bare : bare + own;
}
