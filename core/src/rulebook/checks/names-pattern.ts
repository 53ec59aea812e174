import { freeName, partsInOrder } from '../../document';
import { fittingName, nameFits, patternOf, roleOf } from '../naming';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** Names follow the pattern of their role. */
export const namesPattern: Check = {
  id: 'names.pattern',
  family: 'names',
  stage: 'shape',
  run({ kit, rulebook }) {
    const wrong = partsInOrder(kit).filter((part) => !nameFits(rulebook, part.name, roleOf(rulebook, part)));
    if (wrong.length === 0) return [];
    const taken = new Set(Object.values(kit.parts).map((part) => part.name));
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
        message: `${count(wrong.length, 'name does', 'names do')} not follow the pattern: ${nameList(wrong.map((part) => part.name))}.`,
        measured: count(wrong.length, 'name'),
        limit: first?.explain ?? `at most ${rulebook.naming.maxLength} characters`,
        parts: wrong.map((part) => part.id),
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
