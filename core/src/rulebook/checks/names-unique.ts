import { freeName, type Part } from '../../document';
import { freeFittingName, roleOf } from '../naming';
import type { Check } from '../types';
import { count } from '../wording';

/** No two parts have the same name, whatever the case of its letters. */
export const namesUnique: Check = {
  id: 'names.unique',
  family: 'names',
  stage: 'shape',
  about: 'No two parts have the same name, whatever the case of its letters',
  run({ rulebook, parts }) {
    const groups = new Map<string, Part[]>();
    for (const part of parts) {
      const name = part.name.toLowerCase();
      const group = groups.get(name);
      if (group) group.push(part);
      else groups.set(name, [part]);
    }
    const taken = new Set(groups.keys());
    return [...groups.values()]
      .filter((group) => group.length > 1)
      .map((group) => {
        const names: Record<string, string> = {};
        for (const part of group.slice(1)) {
          // A number must not put a name off its pattern.
          names[part.id] =
            freeFittingName(rulebook, part.name, roleOf(rulebook, part), taken) ??
            freeName(part.name, { has: (name: string) => taken.has(name.toLowerCase()) } as ReadonlySet<string>);
          taken.add(names[part.id].toLowerCase());
        }
        return {
          key: group[0].name,
          title: 'Name used twice',
          message: `“${group[0].name}” is the name of ${count(group.length, 'part')}.`,
          measured: count(group.length, 'part'),
          limit: '1 part a name',
          parts: group.map((part) => part.id),
          mend: {
            title: `Number ${count(group.length - 1, 'name')}`,
            safe: true,
            call: { operation: 'shape.rename', args: { names } },
            changes: Object.values(names).map((name) => `${group[0].name} → ${name}`),
          },
        };
      });
  },
};
