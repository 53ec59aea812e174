import type { Part, Role } from '../../document';
import { fittingName, freeFittingName, nameFits, patternOf, roleOf } from '../naming';
import type { Check, Rulebook } from '../types';
import { count, nameList } from '../wording';

const known = new WeakMap<Rulebook, Map<Role | null, Map<string, string | null>>>();

/**
 * For a role: the name that each name should be, worked out once. Its own where it fits, the nearest one otherwise, null where there is
 * none.
 */
function nearestNames(rulebook: Rulebook): (part: Part) => string | null {
  let byRole = known.get(rulebook);
  if (!byRole) known.set(rulebook, (byRole = new Map()));
  return ({ role: given, name }) => {
    let names = byRole.get(given);
    if (!names || names.size > 50_000) byRole.set(given, (names = new Map()));
    let result = names.get(name);
    if (result === undefined) {
      const role = roleOf(rulebook, { role: given, name });
      names.set(name, (result = nameFits(rulebook, name, role) ? name : fittingName(rulebook, name, role)));
    }
    return result;
  };
}

/** Names follow the pattern of their role. */
export const namesPattern: Check = {
  id: 'names.pattern',
  family: 'names',
  stage: 'shape',
  about: 'Names follow the pattern of their role',
  run({ rulebook, parts }) {
    const nearest = nearestNames(rulebook);
    const wrong: { part: Part; fitting: string | null }[] = [];
    for (const part of parts) {
      const fitting = nearest(part);
      if (fitting !== part.name) wrong.push({ part, fitting });
    }
    if (wrong.length === 0) return [];
    const renamed = new Set(wrong.filter(({ fitting }) => fitting !== null).map(({ part }) => part.id));
    const taken = new Set(parts.filter(({ id }) => !renamed.has(id)).map(({ name }) => name.toLowerCase()));
    const names: Record<string, string> = {};
    for (const { part, fitting } of wrong) {
      if (fitting === null) continue;
      // The nearest name is kept with the rulebook; another one is looked for only where something has it.
      const isFree = !taken.has(fitting.toLowerCase());
      const free = isFree ? fitting : freeFittingName(rulebook, part.name, roleOf(rulebook, part), taken);
      if (free === null) continue;
      names[part.id] = free;
      taken.add(free.toLowerCase());
    }
    const mendable = Object.keys(names).length;
    const first = patternOf(rulebook, roleOf(rulebook, wrong[0].part));
    return [
      {
        title: 'Names off the pattern',
        message: `${count(wrong.length, 'name does', 'names do')} not follow the pattern: ${nameList(wrong.map(({ part }) => part.name))}.`,
        measured: count(wrong.length, 'name'),
        limit: first?.explain ?? `at most ${rulebook.naming.maxLength} characters`,
        parts: wrong.map(({ part }) => part.id),
        mend:
          mendable > 0
            ? {
                title: `Rename ${count(mendable, 'part')}`,
                safe: true,
                call: { operation: 'shape.rename', args: { names } },
              }
            : undefined,
      },
    ];
  },
};
