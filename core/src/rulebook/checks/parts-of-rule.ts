import type { Id, Part, Role } from '../../document';
import { roleOf } from '../naming';
import type { CheckContext, Rule, Rulebook } from '../types';

/** The parts that a rule speaks of: those with its roles, or all. */
export function partsOfRule({ parts, rulebook }: CheckContext, rule: Rule): Part[] {
  return rule.roles ? withRoles(parts, rulebook, rule.roles) : parts;
}

/** Parts whose role, told or by name, is one of these. */
export function withRoles(parts: Part[], rulebook: Rulebook, roles: readonly Role[]): Part[] {
  return parts.filter((part) => {
    const role = roleOf(rulebook, part);
    return role !== null && roles.includes(role);
  });
}

/** The ids of parts, in their order. */
export const idsOf = (parts: readonly Part[]): Id[] => parts.map((part) => part.id);
/** The names of parts, in their order. */
export const namesOf = (parts: readonly Part[]): string[] => parts.map((part) => part.name);
