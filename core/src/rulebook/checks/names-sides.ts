import { freeName } from '../../document';
import { freeFittingName, roleOf } from '../naming';
import { sidedName } from '../sides';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { namesOf } from './parts-of-rule';

/** Names of the left and the right say so in the platform's way. */
export const namesSides: Check = {
  id: 'names.sides',
  family: 'names',
  stage: 'shape',
  about: 'Names of the left and the right say so in the platform’s way',
  needs: ({ naming }) => (naming.sides ? null : 'how sides are told apart in names'),
  run({ kit, rulebook, parts }) {
    const sides = rulebook.naming.sides!;
    const names: Record<string, string> = {};
    const taken = new Set(namesOf(parts).map((name) => name.toLowerCase()));
    for (const part of parts) {
      const fitting = sidedName(part.name, sides);
      if (fitting === part.name) continue;
      names[part.id] = freeFittingName(rulebook, fitting, roleOf(rulebook, part), taken) ?? freeName(fitting, taken);
      taken.add(names[part.id].toLowerCase());
    }
    const wrong = Object.keys(names);
    if (wrong.length === 0) return [];
    return [
      {
        title: 'Sides written in another way',
        message: `${count(wrong.length, 'name tells', 'names tell')} its side in another way: ${nameList(wrong.map((id) => kit.parts[id].name))}.`,
        measured: count(wrong.length, 'name'),
        limit: sides.place === 'prefix' ? `${sides.left}… and ${sides.right}…` : `…${sides.left} and …${sides.right}`,
        parts: wrong,
        mend: {
          title: `Rename ${count(wrong.length, 'part')}`,
          safe: true,
          call: { operation: 'shape.rename', args: { names } },
          changes: wrong.map((id) => `${kit.parts[id].name} → ${names[id]}`),
        },
      },
    ];
  },
};
