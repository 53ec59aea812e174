import { freeName } from '../../document';
import { fittingName, roleOf } from '../naming';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** No part has a name that the platform keeps for itself. */
export const namesReserved: Check = {
  id: 'names.reserved',
  family: 'names',
  stage: 'shape',
  about: 'No part has a name that the platform keeps for itself',
  needs: ({ naming }) => (naming.reserved?.length ? null : 'a list of reserved names'),
  run({ rulebook, parts }) {
    const reserved = new Set(rulebook.naming.reserved!.map((name) => name.toLowerCase()));
    const wrong = parts.filter((part) => reserved.has(part.name.toLowerCase()));
    if (wrong.length === 0) return [];
    const taken = new Set([...namesOf(parts), ...reserved]);
    const names: Record<string, string> = {};
    for (const part of wrong) {
      const free = freeName(`${fittingName(rulebook, part.name, roleOf(rulebook, part)) ?? part.name}_part`, taken);
      names[part.id] = free;
      taken.add(free);
    }
    return [
      {
        title: 'Name is taken by the platform',
        message: `${rulebook.title} keeps ${nameList(namesOf(wrong))} for itself.`,
        measured: count(wrong.length, 'name'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Rename ${count(wrong.length, 'part')}`,
          safe: false,
          call: { operation: 'shape.rename', args: { names } },
          changes: wrong.map((part) => `${part.name} → ${names[part.id]}`),
        },
      },
    ];
  },
};
