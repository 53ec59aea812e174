import { roleOf } from '../naming';
import type { Check, Said } from '../types';

/** Some part has each of the rule’s roles. */
export const rolesPresent: Check = {
  id: 'names.roles-present',
  family: 'names',
  stage: 'shape',
  about: 'Some part has each of the rule’s roles',
  run({ parts, rulebook }, rule) {
    const there = new Set(parts.map((part) => roleOf(rulebook, part)));
    return (rule.roles ?? []).flatMap((role): Said[] => {
      if (there.has(role)) return [];
      const pattern = rulebook.naming.patterns.find((one) => one.role === role);
      return [
        {
          key: role,
          title: `No ${role}`,
          message: `No part is a ${role}${pattern && pattern.prefix !== '' ? `; names that begin with “${pattern.prefix}” are, or give the role by hand` : '; give one the role by hand'}.`,
          measured: '0 parts',
          limit: `1 ${role} or more`,
          parts: [],
        },
      ];
    });
  },
};
