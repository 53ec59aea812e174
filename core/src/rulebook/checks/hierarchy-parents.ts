import { roleOf } from '../naming';
import type { Check, Said } from '../types';

/** Parts of a role hang below parts of the roles that may carry them. */
export const hierarchyParents: Check = {
  id: 'hierarchy.parents',
  family: 'hierarchy',
  stage: 'shape',
  about: 'Parts of a role hang below parts of the roles that may carry them',
  needs: ({ hierarchy }) => (hierarchy?.parents?.length ? null : 'which roles may hang below which (hierarchy.parents)'),
  run({ kit, parts, rulebook }) {
    const allowed = new Map(rulebook.hierarchy!.parents!.map(({ role, under }) => [role, under]));
    return parts.flatMap((part): Said[] => {
      const role = roleOf(rulebook, part);
      const under = role === null ? undefined : allowed.get(role);
      if (!under) return [];
      const parent = part.parent === null ? null : kit.parts[part.parent];
      const above = parent && roleOf(rulebook, parent);
      if (above && under.includes(above)) return [];
      return [
        {
          key: part.id,
          title: `A ${role} hangs below the wrong part`,
          message: `“${part.name}” is a ${role} and hangs ${parent ? `below “${parent.name}”, which is ${above ? `a ${above}` : 'of no role'}` : 'at the top'}.`,
          measured: parent ? (above ?? 'no role') : 'at the top',
          limit: `below a ${under.join(' or ')}`,
          parts: [part.id],
        },
      ];
    });
  },
};
