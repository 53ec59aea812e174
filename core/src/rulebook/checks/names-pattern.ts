import { freeName, type Part } from '../../document';
import { fittingName, nameFits, patternOf, roleOf } from '../naming';
import type { Check, Rulebook } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

const known = new WeakMap<Rulebook, Map<string, boolean>>();

/** Whether a part's name fits; worked out once for every name and role. */
function fits(rulebook: Rulebook, part: Part): boolean {
  let names = known.get(rulebook);
  if (!names || names.size > 50_000) known.set(rulebook, (names = new Map()));
  const key = `${part.role ?? ''}/${part.name}`;
  let result = names.get(key);
  if (result === undefined) names.set(key, (result = nameFits(rulebook, part.name, roleOf(rulebook, part))));
  return result;
}

/** Names follow the pattern of their role. */
export const namesPattern: Check = {
  id: 'names.pattern',
  family: 'names',
  stage: 'shape',
  about: 'Names follow the pattern of their role',
  run({ kit, rulebook, parts }) {
    const wrong = parts.filter((part) => !fits(rulebook, part));
    if (wrong.length === 0) return [];
    const taken = new Set(namesOf(parts));
    const names: Record<string, string> = {};
    for (const part of wrong) {
      const fitting = fittingName(rulebook, part.name, roleOf(rulebook, part));
      if (fitting === null) continue;
      names[part.id] = freeName(fitting, taken);
      taken.add(names[part.id]);
    }
    const mendable = Object.keys(names).length;
    const first = patternOf(rulebook, roleOf(rulebook, wrong[0]));
    return [
      {
        title: 'Names off the pattern',
        message: `${count(wrong.length, 'name does', 'names do')} not follow the pattern: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'name'),
        limit: first?.explain ?? `at most ${rulebook.naming.maxLength} characters`,
        parts: idsOf(wrong),
        mend:
          mendable > 0
            ? {
                title: `Rename ${count(mendable, 'part')}`,
                safe: true,
                call: { operation: 'shape.rename', args: { names } },
                changes: Object.entries(names).map(([id, name]) => `${kit.parts[id].name} → ${name}`),
              }
            : undefined,
      },
    ];
  },
};
